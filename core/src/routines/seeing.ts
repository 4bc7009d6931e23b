import { pick, type Random } from '../random/random';
import { movingNumbers, numbersTo } from './draws';
import { boardOf } from './frame';
import type { Picture } from './picture';
import { chain, countersOf, makeAsk, talk, type Ask, type Routine, type RoutineWish, type SeenLayout } from './routine';
import { followUps, numberDecides, numberDecidesOfFive } from './followUps';

/** The most a layout is flashed with. */
const LARGEST_FLASHED: Record<SeenLayout, number> = {
  five: 5,
  'frame-fives': 10,
  'frame-pairs': 10,
  dice: 6,
  domino: 10,
  mirror: 10,
  beads: 10,
  fingers: 10,
  line: 10,
  scatter: 8,
};

export function seenPicture(wish: RoutineWish, count: number, random: Random, layout = wish.layout): Picture {
  if (layout === 'five' || layout === 'frame-fives' || layout === 'frame-pairs') {
    const open = wish.options.kinds === 'fives' ? Math.min(5, count) : undefined;
    return {
      show: 'frame',
      layout,
      count,
      direction: wish.options.direction,
      counters: countersOf(wish),
      ...(open === undefined ? {} : { open }),
    };
  }
  if (layout === 'scatter') return { show: 'scatter', count, seed: Math.floor(random() * 1e6) };
  return { show: 'spots', layout, count };
}

const isFrame = (layout: SeenLayout): boolean => layout.startsWith('frame') || layout === 'five';

const flashAndSay: Routine = {
  id: 'flash-and-say',
  group: 'seeing',
  choices: ['layout', 'direction', 'kinds', 'counters', 'exposure', 'length', 'order', 'zero'],
  asks: (random, wish) =>
    numbersTo(random, LARGEST_FLASHED[wish.layout], wish).flatMap((n, i, all): Ask[] => {
      const ask = makeAsk(
        `show:${n}:${wish.layout}`,
        seenPicture(wish, n, random),
        { say: 'how-many-seen' },
        { flash: true, after: { say: 'how-seen' }, then: isFrame(wish.layout) ? { say: 'follow-up', n } : null },
      );
      const last = i === all.length - 1 && !isFrame(wish.layout);
      return last ? chain([ask, talk({ show: 'nothing' }, { say: 'own-pattern' })]) : [ask];
    }),
};

/**
 * Ready → flash → the child builds → the same flash again above their own frame, and they check their own work → how many → what the number decides. Nothing is said of the number before they have
 * checked; the first build is the first answer.
 */
const flashAndBuild: Routine = {
  id: 'flash-and-build',
  usualCards: 3,
  group: 'seeing',
  choices: ['layout', 'direction', 'startBox', 'kinds', 'counters', 'exposure', 'length', 'order', 'zero'],
  asks: (random, wish) => {
    const layout = wish.layout === 'five' || wish.layout === 'frame-pairs' ? wish.layout : 'frame-fives';
    return numbersTo(random, LARGEST_FLASHED[layout], wish).flatMap((n): Ask[] => {
      const picture = seenPicture({ ...wish, layout }, n, random);
      const built = (keeps: boolean) => ({ by: 'board', plan: { ...boardOf(layout), keeps } }) as const;
      return chain([
        makeAsk(
          `show:${n}:${layout}`,
          picture,
          { say: 'build-seen' },
          { flash: true, want: built(false), checksItself: true, after: { say: 'look-at-yours' } },
        ),
        makeAsk(
          `show:${n}:${layout}`,
          picture,
          { say: 'same-as-yours' },
          { flash: true, want: built(true), aid: 'second-look', changes: true, after: { say: 'just-the-same' } },
        ),
        makeAsk(`show:${n}:${layout}`, picture, { say: 'how-many' }, { aid: 'picture', after: { say: 'how-seen' } }),
        ...(layout === 'five' ? numberDecidesOfFive : layout === 'frame-fives' ? numberDecides : () => [])(n, picture),
      ]);
    });
  },
};

/** 5 → 7 → 10 → 6 …: counters come and go on the frame that is there; each time how many, and how many boxes are empty. The first are counted aloud. */
const changingFrame: Routine = {
  id: 'changing-frame',
  usualCards: 5,
  shelf: {
    show: 'sets',
    left: { show: 'frame', layout: 'frame-fives', count: 5, direction: 'rows' },
    right: { show: 'frame', layout: 'frame-fives', count: 7, direction: 'rows' },
  },
  group: 'the frame and ten',
  choices: ['direction', 'counters', 'length', 'zero'],
  asks: (random, wish) =>
    movingNumbers(random, wish).flatMap((n, i): Ask[] => {
      const picture = seenPicture({ ...wish, layout: 'frame-fives' }, n, random);
      const shown = `show:${n}:frame-fives`;
      return chain([
        i === 0
          ? makeAsk(shown, picture, { say: 'count-aloud' }, { aid: 'picture', after: { say: 'thanks' } })
          : makeAsk(shown, picture, { say: 'how-many-now' }, { after: { say: 'count-or-see', n }, changes: true }),
        makeAsk(`${n}+?=10`, picture, { say: 'empty-boxes' }, { aid: 'picture', after: { say: 'thanks' } }),
      ]);
    }),
};

/** Every question that suits the number in turn, the picture in view: to five; top, below and in all; empties; one more; one less. */
const talkAboutIt: Routine = {
  id: 'talk-about-it',
  usualCards: 3,
  group: 'the frame and ten',
  choices: ['direction', 'counters', 'length', 'order', 'zero'],
  asks: (random, wish) =>
    numbersTo(random, 10, wish).flatMap((n): Ask[] => {
      const picture = seenPicture({ ...wish, layout: 'frame-fives' }, n, random);
      return chain([
        makeAsk(`show:${n}:frame-fives`, picture, { say: 'how-many' }, { after: { say: 'how-seen' } }),
        ...followUps(n, picture),
      ]);
    }),
};

/** Two numbers that are one apart or two, or the same, balanced; and which side the larger stands on. */
function twoSets(
  random: Random,
  wish: RoutineWish,
  mayBeSame: boolean,
): { readonly left: number; readonly right: number; readonly picture: Picture }[] {
  const most = Math.min(8, LARGEST_FLASHED[wish.layout]);
  return numbersTo(random, most, { ...wish, zeroToo: false }).map((n, i) => {
    const same = mayBeSame && i % 2 === 0;
    const by = pick(random, [1, 2]);
    const other = same ? n : n + by <= most ? n + by : n - by;
    const [left, right] = random() < 0.5 ? [n, other] : [other, n];
    // The same number never looks the same: one side is scattered, so that only the number can tell.
    const scattered = wish.layout === 'scatter' ? 'dice' : 'scatter';
    const layouts: SeenLayout[] = random() < 0.5 ? [wish.layout, scattered] : [scattered, wish.layout];
    return {
      left,
      right,
      picture: {
        show: 'sets',
        left: seenPicture(wish, left, random, layouts[0]),
        right: seenPicture(wish, right, random, layouts[1]),
      },
    };
  });
}

const sameOrDifferent: Routine = {
  id: 'same-or-different',
  group: 'seeing',
  choices: ['layout', 'exposure', 'length'],
  asks: (random, wish) =>
    twoSets(random, wish, true).map(({ left, right, picture }) =>
      makeAsk(
        `same:${left}:${right}`,
        picture,
        { say: 'same-or-different' },
        { flash: true, want: { by: 'choice', among: ['same', 'different'] } },
      ),
    ),
};

/** Which side has more → made the same by giving → and by taking away. */
const whichMore: Routine = {
  id: 'which-more',
  usualCards: 4,
  group: 'seeing',
  choices: ['layout', 'length'],
  asks: (random, wish) =>
    twoSets(random, wish, false).flatMap(({ left, right, picture }) => {
      const [fewer, more] = [Math.min(left, right), Math.max(left, right)];
      return chain([
        makeAsk(
          `more:${left}:${right}`,
          picture,
          { say: 'which-more' },
          { want: { by: 'choice', among: ['left', 'right'] }, after: { say: 'thanks' } },
        ),
        makeAsk(`${fewer}+?=${more}`, picture, { say: 'make-equal' }, { aid: 'picture', after: { say: 'thanks' } }),
        makeAsk(`${more}-?=${fewer}`, picture, { say: 'take-equal' }, { aid: 'picture', after: { say: 'thanks' } }),
      ]);
    }),
};

/** n − 1 is seen, one more comes: n. */
const oneMore: Routine = {
  id: 'one-more',
  usualCards: 5,
  group: 'seeing',
  choices: ['layout', 'exposure', 'length', 'order'],
  asks: (random, wish) =>
    numbersTo(random, Math.min(9, LARGEST_FLASHED[wish.layout]), { ...wish, zeroToo: false }).flatMap((n): Ask[] => {
      const picture = seenPicture(wish, n, random);
      const more: Picture = { show: 'sets', left: picture, right: { show: 'spots', layout: 'dice', count: 1 } };
      return chain([
        makeAsk(
          `show:${n}:${wish.layout}`,
          picture,
          { say: 'how-many-seen' },
          { flash: true, after: { say: 'how-seen' } },
        ),
        makeAsk(`${n}+1`, more, { say: 'and-one-more', n }, { aid: 'picture', after: { say: 'one-more-than', n } }),
      ]);
    }),
};

/** How many groups, then counted in twos or fives. */
const equalGroups: Routine = {
  id: 'equal-groups',
  usualCards: 4,
  group: 'seeing',
  choices: ['groupsOf', 'length', 'order'],
  asks: (random, wish) => {
    const of = wish.options.groupsOf === 'five' ? 5 : 2;
    const most = of === 5 ? 4 : 5;
    return numbersTo(random, most, { ...wish, zeroToo: false }).flatMap((count): Ask[] => {
      const picture: Picture = { show: 'groups', count, of };
      const whole = count * of;
      return chain([
        makeAsk(
          `groups:${count}:${of}:count`,
          picture,
          { say: 'how-many-groups' },
          { aid: 'picture', after: { say: 'thanks' } },
        ),
        makeAsk(
          `groups:${count}:${of}`,
          picture,
          { say: 'count-in', of },
          { aid: 'picture', want: { by: 'number', to: whole > 10 ? 20 : 10 } },
        ),
      ]);
    });
  },
};

export const SEEING: readonly Routine[] = [
  flashAndSay,
  flashAndBuild,
  sameOrDifferent,
  whichMore,
  oneMore,
  equalGroups,
  changingFrame,
  talkAboutIt,
];
