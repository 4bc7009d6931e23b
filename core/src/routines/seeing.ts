import { pick, type Random } from '../random/random';
import { numbersTo } from './draws';
import { boardOf } from './frame';
import type { Picture } from './picture';
import { chain, countersOf, makeAsk, type Ask, type Routine, type RoutineWish, type SeenLayout } from './routine';
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
    numbersTo(random, LARGEST_FLASHED[wish.layout], wish).map((n) =>
      makeAsk(
        `show:${n}:${wish.layout}`,
        seenPicture(wish, n, random),
        { say: 'how-many-seen' },
        { flash: true, after: isFrame(wish.layout) ? { say: 'follow-up', n } : { say: 'how-seen' } },
      ),
    ),
};

/** Ready → flash → the child builds → flash again, and they check their own work → how many → what the number decides. */
const flashAndBuild: Routine = {
  id: 'flash-and-build',
  group: 'seeing',
  choices: ['layout', 'direction', 'startBox', 'kinds', 'counters', 'exposure', 'length', 'order', 'zero'],
  asks: (random, wish) => {
    const layout = wish.layout === 'five' || wish.layout === 'frame-pairs' ? wish.layout : 'frame-fives';
    return numbersTo(random, LARGEST_FLASHED[layout], wish, 5).flatMap((n): Ask[] => {
      const picture = seenPicture({ ...wish, layout }, n, random);
      const rows = layout === 'frame-fives' && n > 5;
      return chain([
        makeAsk(
          `show:${n}:${layout}`,
          picture,
          { say: 'build-seen' },
          { flash: true, want: { by: 'board', plan: boardOf(layout) }, after: { say: rows ? 'rows' : 'thanks' } },
        ),
        makeAsk(
          `show:${n}:${layout}`,
          picture,
          { say: 'check-own' },
          { flash: true, aid: 'second-look', after: { say: layout === 'frame-pairs' ? 'how-seen' : 'thanks' } },
        ),
        ...(layout === 'five' ? numberDecidesOfFive : layout === 'frame-fives' ? numberDecides : () => [])(n, picture),
      ]);
    });
  },
};

/** 5 → 7 → 10 → 5 → 6 …: each time how many, and how many boxes are empty. */
const changingFrame: Routine = {
  id: 'changing-frame',
  shelf: {
    show: 'sets',
    left: { show: 'frame', layout: 'frame-fives', count: 5, direction: 'rows' },
    right: { show: 'frame', layout: 'frame-fives', count: 7, direction: 'rows' },
  },
  group: 'the frame and ten',
  choices: ['direction', 'counters', 'length', 'zero'],
  asks: (random, wish) =>
    numbersTo(random, 10, { ...wish, options: { ...wish.options, order: 'mixed' } }, 2).flatMap((n): Ask[] => {
      const picture = seenPicture({ ...wish, layout: 'frame-fives' }, n, random);
      return chain([
        makeAsk(`show:${n}:frame-fives`, picture, { say: 'how-many-now' }, { after: { say: 'count-or-see', n } }),
        makeAsk(`${n}+?=10`, picture, { say: 'empty-boxes' }, { aid: 'picture', after: { say: 'thanks' } }),
      ]);
    }),
};

/** Every question that suits the number in turn, the picture in view: to five; top, below and in all; empties; one more; one less. */
const talkAboutIt: Routine = {
  id: 'talk-about-it',
  group: 'the frame and ten',
  choices: ['direction', 'counters', 'length', 'order', 'zero'],
  asks: (random, wish) => {
    const asks: Ask[] = [];
    for (const n of numbersTo(random, 10, wish)) {
      if (asks.length >= wish.shows) break;
      const picture = seenPicture({ ...wish, layout: 'frame-fives' }, n, random);
      asks.push(
        ...chain([
          makeAsk(`show:${n}:frame-fives`, picture, { say: 'how-many-now' }, { after: { say: 'thanks' } }),
          ...followUps(n, picture),
        ]),
      );
    }
    return asks;
  },
};

/** Two numbers that are one apart or two, or the same, balanced; and which side the larger stands on. */
function twoSets(
  random: Random,
  wish: RoutineWish,
  mayBeSame: boolean,
): { readonly left: number; readonly right: number; readonly picture: Picture }[] {
  const most = Math.min(8, LARGEST_FLASHED[wish.layout]);
  return numbersTo(random, most, { ...wish, zeroToo: false }, mayBeSame ? 1 : 2).map((n, i) => {
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

const whichMore: Routine = {
  id: 'which-more',
  group: 'seeing',
  choices: ['layout', 'length'],
  asks: (random, wish) =>
    twoSets(random, wish, false).flatMap(({ left, right, picture }) =>
      chain([
        makeAsk(
          `more:${left}:${right}`,
          picture,
          { say: 'which-more' },
          { want: { by: 'choice', among: ['left', 'right'] }, after: { say: 'thanks' } },
        ),
        makeAsk(
          `${Math.min(left, right)}+?=${Math.max(left, right)}`,
          picture,
          { say: 'make-equal' },
          { aid: 'picture' },
        ),
      ]),
    ),
};

/** n − 1 is seen, one more comes: n. */
const oneMore: Routine = {
  id: 'one-more',
  group: 'seeing',
  choices: ['layout', 'exposure', 'length', 'order'],
  asks: (random, wish) =>
    numbersTo(random, Math.min(9, LARGEST_FLASHED[wish.layout]), { ...wish, zeroToo: false }, 2).flatMap((n): Ask[] => {
      const picture = seenPicture(wish, n, random);
      const more: Picture = { show: 'sets', left: picture, right: { show: 'spots', layout: 'dice', count: 1 } };
      return chain([
        makeAsk(
          `show:${n}:${wish.layout}`,
          picture,
          { say: 'how-many-seen' },
          { flash: true, after: { say: 'thanks' } },
        ),
        makeAsk(`${n}+1`, more, { say: 'and-one-more', n }, { aid: 'picture', after: { say: 'one-more-than', n } }),
      ]);
    }),
};

/** How many groups, then counted in twos or fives. */
const equalGroups: Routine = {
  id: 'equal-groups',
  group: 'seeing',
  choices: ['groupsOf', 'length', 'order'],
  asks: (random, wish) => {
    const of = wish.options.groupsOf === 'five' ? 5 : 2;
    const most = of === 5 ? 4 : 5;
    return numbersTo(random, most, { ...wish, zeroToo: false }, 2).flatMap((count): Ask[] => {
      const picture: Picture = { show: 'groups', count, of };
      const whole = count * of;
      return chain([
        makeAsk(null, picture, { say: 'how-many-groups' }, { accepts: [String(count)], after: { say: 'thanks' } }),
        makeAsk(
          `groups:${count}:${of}`,
          picture,
          { say: 'count-in', of },
          { aid: 'picture', want: { by: 'number', from: whole > 10 ? 10 : 0 } },
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
