import { rosterFile } from '../files/roster';
import { type RosterService } from '../outside/rosterService';

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
