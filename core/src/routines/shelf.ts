import { isFact } from '../facts/question';
import { seeded } from '../random/random';
import type { Picture } from './picture';
import type { Ask, Routine, RoutineWish } from './routine';

/** Where a question stands on the path from things to symbols. */
export const PATH_STEPS = ['objects', 'picture', 'remembered', 'symbols'] as const;
export type PathStep = (typeof PATH_STEPS)[number];

/** What a routine is, told by its own questions under a wish. */
interface ShelfEntry {
  /** The picture that tells most of it. */
  readonly picture: Picture;
  readonly steps: readonly PathStep[];
  /** Whether any of its answers is judged: unaided, at first look, of a fact within ten. */
  readonly judged: boolean;
}

/** The same for everybody, and each routine its own, wherever it stands among the others: a picture on the shelf is not a question put to a child. */
const seedOf = (id: string): number =>
  [...id].reduce((seed, letter) => (31 * seed + letter.charCodeAt(0)) % 65_521, 11);

function stepOf({ aid, flash, picture }: Ask): PathStep {
  if (aid === 'objects') return 'objects';
  if (flash) return 'remembered';
  const symbols = picture.show === 'numeral' || picture.show === 'sentences' || picture.show === 'part-whole';
  if (symbols || (picture.show === 'sentence' && picture.over === undefined)) return 'symbols';
  return 'picture';
}

/** How much a picture tells: pictures with something in them before empty ones, parts before a single number. */
function tells({ picture }: Ask): number {
  switch (picture.show) {
    case 'nothing':
      return 0;
    case 'numeral':
      return 1;
    case 'frame':
      return picture.count === 0 ? 0.5 : 2;
    case 'stick':
      return picture.hidden ? 4 : 3;
    case 'ways':
      return picture.ways.length > 2 ? 4 : 1;
    default:
      return 3;
  }
}

/** A routine as it stands on the shelf. */
export function shelfEntry(routine: Routine, wish: RoutineWish): ShelfEntry {
  const asks = routine.asks(seeded(seedOf(routine.id)), wish);
  const counted = asks.filter((ask) => ask.want.by !== 'talk');
  const best = asks.reduce((most, ask) => (tells(ask) > tells(most) ? ask : most), asks[0]!);
  const own = routine.shelf ?? best.picture;
  const steps = new Set(counted.map(stepOf));
  if (routine.objects) steps.add('objects');
  return {
    picture: own,
    steps: PATH_STEPS.filter((step) => steps.has(step)),
    judged:
      routine.judgedLater === true ||
      counted.some(({ fact, aid, want }) => fact !== null && isFact(fact) && aid === 'none' && want.by === 'number'),
  };
}
