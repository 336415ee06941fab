/**
 * A teacher's own sound file for a block of a plan. It stays on this device: neither it nor its name
 * is ever sent.
 */
import { t } from "../../messages/parts";
import Dexie, { type Table } from "dexie";

export interface Sound {
  block: string;
  name: string;
  bytes: ArrayBuffer;
}
class Sounds extends Dexie {
  sounds!: Table<Sound, string>;

  constructor() {
    super("lauf-sounds");
    this.version(1).stores({ sounds: "block" });
  }
}
const kept = new Sounds();

export const soundOf = (block: string) => kept.sounds.get(block);
export const forgetSound = (block: string) => kept.sounds.delete(block);

/** Keep a file for a block. Throws with a sentence where the browser cannot play it. */
export async function keepSound(block: string, file: File): Promise<{ seconds: number }> {
  const bytes = await file.arrayBuffer();
  const heard = await decoded(bytes).catch(() => {
    throw new Error(t("thisDeviceCannotPlayFileChoose", { file: file.name }));
  });
  await kept.sounds.put({ block, name: file.name, bytes });
  return { seconds: heard.duration };
}

/** Decoding needs no press of a button, as playing does. */
export function decoded(bytes: ArrayBuffer): Promise<AudioBuffer> {
  // A buffer is used up by decoding.
  return new OfflineAudioContext(2, 1, 44_100).decodeAudioData(bytes.slice(0));
}
