/** A list half-way through, kept by the browser's tab. */
const KEY = "lauf.list-half-way";

interface Half {
  given: { text: string; data: string; file_name: string };
  answers: Record<string, unknown>;
  leavers: string[];
}

export function halfWay(): Half | null {
  try {
    return JSON.parse(sessionStorage.getItem(KEY) ?? "null") as Half | null;
  } catch {
    return null;
  }
}

export function rememberHalf(half: Half) {
  try {
    if (half.given.text || half.given.data) sessionStorage.setItem(KEY, JSON.stringify(half));
    else forgetHalf();
  } catch {
    forgetHalf(); // larger than a tab keeps: it has to be chosen again after a reload
  }
}

export function forgetHalf() {
  sessionStorage.removeItem(KEY);
}
