import { howPut } from '../routines/planned';
import type { Need } from '../plan/need';
import type { Words } from '../routines/classWords';
import type { PlannedAsk } from '../routines/routine';
import type { RoutineId } from '../routines/routineIds';
import type { Catalogue } from '../words/catalogue';
import { ANSWER_PLACE } from './groupSheet';
import { heading, large, small, type Block } from './text';

/** A planned session as a helper runs it: what it is for, how long it takes, and what each child is asked. */
interface SheetSession {
  readonly needs: readonly Need[];
  /** What opens carpet time for everybody; null = the session stands alone. */
  readonly opener: RoutineId | null;
  readonly minutes: number;
}

interface SheetChild {
  readonly nickname: string;
  readonly asks: readonly PlannedAsk[];
  /** Nothing is flashed for this child. */
  readonly still: boolean;
}

/** What is shown and covered stays in view for a child for whom nothing is flashed. */
const formOf = (ask: PlannedAsk, still: boolean): 'covered' | 'in view' | 'plain' => {
  const { flash, aid } = howPut(ask);
  return flash && !still ? 'covered' : flash || aid === 'picture' ? 'in view' : 'plain';
};

/**
 * Carpet time on one page, for a helper without a device: what opens it, each child's own questions in turn with a place for the answer, and a close.
 * @param children in the order of the turn line
 */
export function carpetSheet({
  code,
  className,
  today,
  session: { needs, opener, minutes },
  children,
  words,
  say,
}: {
  readonly code: string;
  readonly className: string;
  readonly today: string;
  readonly session: SheetSession;
  readonly children: readonly SheetChild[];
  readonly words: Words;
  readonly say: Catalogue;
}): Block[] {
  const told = say.prints.group;
  const routine = (id: RoutineId): string => `${say.routines[id].title}. ${say.routines[id].about}`;
  const tables = Array.from({ length: Math.ceil(children.length / MOST_ACROSS) }, (_, i) =>
    tableOf(children.slice(i * MOST_ACROSS, (i + 1) * MOST_ACROSS), say),
  );
  return [
    heading(told.title(className, code)),
    ...(opener === null ? [] : [large(told.opens(routine(opener)))]),
    heading(told.part(say.plan.title(needs), minutes)),
    { block: 'list', large: true, items: told.turns(words) },
    ...tables,
    ...(opener === null ? [] : [large(told.closes(routine('close')))]),
    small(`${told.made(today)} ${told.after}`),
  ];
}

/** As many children side by side as a page that lies has room for. */
const MOST_ACROSS = 4;
/** Of a table that lies on the narrower paper, and what its columns have between them. */
const TABLE_MM = 248;
const BETWEEN_MM = 5.7;
const FACT_MM = 60;

/** A question as short as it can be: four children's stand beside each other, in large letters. */
const inShort = (fact: string, say: Catalogue): string =>
  fact.startsWith('show:') ? say.prints.group.dots(say.factHead(fact)) : say.factHead(fact);

function tableOf(children: readonly SheetChild[], say: Catalogue): Block {
  const factMm = Math.min(FACT_MM, TABLE_MM / children.length - ANSWER_PLACE.width - 2 * BETWEEN_MM);
  return {
    block: 'table',
    large: true,
    head: children.flatMap(({ nickname }) => [nickname, '']),
    widthsMm: children.flatMap(() => [factMm, ANSWER_PLACE.width]),
    rows: Array.from({ length: Math.max(...children.map(({ asks }) => asks.length)) }, (_, row) =>
      children.flatMap(({ asks, still }) => {
        const ask = asks[row];
        return ask === undefined
          ? ['', '']
          : [say.prints.group.put(inShort(ask.fact, say), formOf(ask, still)), ANSWER_PLACE];
      }),
    ),
  };
}
