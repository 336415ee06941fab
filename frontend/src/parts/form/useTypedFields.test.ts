import { expect, it } from "vitest";
import { ApiError } from "../../api/client";
import { useTypedFields } from "./useTypedFields";

const event = (value: string) => ({ target: { value } }) as unknown as Event;

it("keeps each field by itself, and what is wrong stays as it was typed", async () => {
  const sent: string[] = [];
  const fields = useTypedFields((key, typed) => {
    sent.push(`${key}: ${typed}`);
    if (typed === "x") return Promise.reject(new ApiError(422, "No number.", "Type one."));
    return Promise.resolve();
  });
  await fields.keep("ada"); // nothing was typed
  fields.type("ada", event("x"));
  fields.type("ben", event("12"));
  await Promise.all([fields.keep("ada"), fields.keep("ben")]);
  expect([sent, fields.wrong, fields.typed]).toEqual([
    ["ada: x", "ben: 12"],
    { ada: "No number. Type one." },
    { ada: "x" },
  ]);
  fields.type("ada", event("9"));
  await fields.keep("ada");
  expect([fields.wrong, fields.typed]).toEqual([{}, {}]);
});

it("does not drop what is typed while the field is on its way", async () => {
  let arrive = () => {};
  const fields = useTypedFields(() => new Promise<void>((done) => (arrive = done)));
  fields.type("ada", event("1"));
  const kept = fields.keep("ada");
  fields.type("ada", event("12"));
  arrive();
  await kept;
  expect(fields.typed).toEqual({ ada: "12" });
});
