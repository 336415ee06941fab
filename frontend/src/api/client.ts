/** The one way to the server: typed from the API's description, with its error in one shape. */
import { t } from "../messages/api";
import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];

/** What the server said went wrong. `status` 0 means that it could not be reached. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly accepted = "",
    readonly choices: { typed: string; words: string }[] = [],
    readonly current: Current | null = null,
    /** Only a clock speaks against it: "it is right" keeps it as typed. */
    readonly sure = false,
    /** How long the server asks to be left alone. */
    readonly retryAfterMs = 0,
  ) {
    super(message);
  }
}

/** What went wrong, and what would be taken instead, in one line. */
export function wordsOf(error: unknown): string {
  const { message, accepted } = error as ApiError;
  return [message, accepted].filter(Boolean).join(" ");
}

/** The entry that counts when another device came first. */
export interface Current {
  id: string;
  typed: string;
  variant: string;
  by: string;
  at: string;
}

function cookie(name: string): string {
  const found = document.cookie.split("; ").find((part) => part.startsWith(`${name}=`));
  return found ? decodeURIComponent(found.slice(name.length + 1)) : "";
}

const csrf: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", cookie("csrftoken"));
    return request;
  },
};

export const client = createClient<paths>({ baseUrl: window.location.origin });
client.use(csrf);

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The data of an answer, or an `ApiError`. */
export async function answer<T>(asked: Promise<Answer<T>>): Promise<T> {
  let got: Answer<T>;
  try {
    got = await asked;
  } catch {
    throw new ApiError(0, t("laufCannotReachTheServer"));
  }
  if (got.response.ok) return got.data as T;
  const said = (got.error ?? {}) as Record<string, unknown>;
  throw new ApiError(
    got.response.status,
    typeof said.message === "string" ? said.message : t("somethingWentWrongOnTheServer"),
    typeof said.accepted === "string" ? said.accepted : "",
    (said.choices as ApiError["choices"] | undefined) ?? [],
    (said.current as Current | undefined) ?? null,
    said.sure === true,
    1000 * (Number(got.response.headers.get("Retry-After")) || 0),
  );
}
