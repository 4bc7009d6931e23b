import { rosterFile, type RosterService } from '../files/roster';

/** The roster service that ships with Vane. It is simulated: a small harbour school, with invented children. */
export const harbourRoster: RosterService & { readonly simulated: true } = {
  simulated: true,
  fetch: () =>
    Promise.resolve(
      rosterFile(
        { id: 'saltmarsh', name: 'Saltmarsh Infants' },
        [
          {
            id: 'sandpiper',
            name: 'Sandpiper',
            children: ['Marlo', 'Kesi', 'Yusra', 'Teodor', 'Mirren', 'Haruki'].map((nickname) => ({
              id: `s-${nickname}`,
              nickname,
            })),
          },
          {
            id: 'dunlin',
            name: 'Dunlin',
            children: ['Pelle', 'Junia', 'Nuru', 'Wilfa'].map((nickname) => ({ id: `d-${nickname}`, nickname })),
          },
        ],
        2026,
      ),
    ),
};

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
