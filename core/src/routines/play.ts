import { seeded, type Random } from '../random/random';
import { isRight, type Answered, type Ask, type Routine, type RoutineWish } from './routine';

/** Everything that can be given to an ask. */
export function every({ want }: Ask): string[] {
  const numbers = Array.from({ length: 21 }, (_, n) => n);
  const toTen = numbers.slice(0, 11);
  switch (want.by) {
    case 'number':
      return numbers.slice(0, want.to + 1).map(String);
    case 'choice':
      return [...want.among];
    case 'board':
      return toTen.map(String);
    case 'pair':
      return toTen.flatMap((a) => toTen.map((b) => `${a}+${b}`));
    case 'cut':
      return toTen
        .slice(1, want.count)
        .filter((n) => !want.cuts.includes(n))
        .map(String);
    case 'talk':
      return [''];
  }
}

/** The first right answer among those. */
export const rightly = (ask: Ask): string => every(ask).find((given) => isRight(ask, given)) ?? '';

/** Plays a routine to its end with the answers that `answer` gives. */
export function playRoutine(
  routine: Routine,
  wish: RoutineWish,
  seed: number,
  answer: (ask: Ask, random: Random) => string,
): Answered[] {
  const random = seeded(seed);
  const asks = routine.asks(random, wish);
  const soFar: Answered[] = [];
  for (let i = 0; i < 400; i++) {
    if (i === asks.length) asks.push(...(routine.follow?.(soFar, random, wish) ?? []));
    const ask = asks[i];
    if (!ask) return soFar;
    const given = ask.want.by === 'talk' ? '' : answer(ask, random);
    soFar.push({ ask, given, right: isRight(ask, given), responseMs: 1500, sign: null });
  }
  throw new Error(`${routine.id} does not end`);
}
