import type { RecordRow, SittingRow } from '@vane/contract';
import Dexie, { liveQuery, type Table } from 'dexie';
import { from, type Observable } from 'rxjs';

/**
 * What this device keeps until the server has it. `open`: the adult may still change it (a sign, an undo) until the next show begins. `waiting`: to be
 * sent. `refused`: the server said no; kept and shown, never thrown away.
 */
export interface KeptResponse {
  readonly id: string;
  readonly classId: string;
  readonly row: RecordRow;
  readonly state: 'open' | 'waiting' | 'refused';
  readonly reason: string;
  /** The adult who entered it and in whose name it is sent; older rows without one belong to the signed-in adult. */
  readonly adult?: string;
}

interface KeptSitting {
  readonly id: string;
  readonly classId: string;
  readonly row: SittingRow;
}

/** The device's own database. */
export class KeptDatabase extends Dexie {
  readonly responses!: Table<KeptResponse, string>;
  readonly sittings!: Table<KeptSitting, string>;

  constructor(name = 'vane') {
    super(name);
    this.version(1).stores({ responses: 'id, state', sittings: 'id' });
  }

  /** All responses, now and whenever a page of this browser has changed one. */
  all(): Observable<KeptResponse[]> {
    return from(liveQuery(() => this.responses.toArray()));
  }
}
