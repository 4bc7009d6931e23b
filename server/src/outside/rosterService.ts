/** A school's roster, as a service would serve it. */
export interface RosterService {
  fetch(): Promise<Uint8Array>;
}

export interface RosterClass {
  readonly id: string;
  readonly name: string;
  readonly children: readonly { readonly id: string; readonly nickname: string }[];
}

/** What a thread says of a roster: an error's kind would not survive the way back. */
export type RosterRead = { readonly classes: RosterClass[] } | { readonly refused: string };

const LARGEST = 8 * 1024 * 1024;

/** A real service that serves a roster's archive at an address. */
export const rosterAt = (url: string, authorization: string): RosterService => ({
  fetch: async () => {
    const answer = await fetch(url, {
      headers: authorization ? { authorization } : {},
      signal: AbortSignal.timeout(20_000),
    });
    if (!answer.ok) throw new Error(`the roster service answered ${answer.status}`);
    const bytes = new Uint8Array(await answer.arrayBuffer());
    if (bytes.length > LARGEST) throw new Error('the roster is larger than any roster');
    return bytes;
  },
});
