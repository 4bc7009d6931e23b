import type { Mistake } from '../../mistakes/mistake';
import type { Words } from '../../routines/classWords';
import type { Prompt, Thought } from '../../routines/prompt';

/** What a number is that was said instead of the answer: never that it is wrong. */
export function thought(told: Thought | null, question: Prompt, words: Words): string {
  if (told === null) return 'Let’s check.';
  const { mistake, fact, given } = told;
  if (question.say === 'make-equal' || question.say === 'take-equal') return onOneSide(mistake, given);
  const [head = ''] = fact.split(':');
  const takes = /^\d+-\d+$/.test(fact) || head === 'left';
  switch (mistake) {
    case 'whole instead of part':
      if (takes) return `${given} is how many there were at first.`;
      return fact.endsWith(':move') ? `${given} is all of them.` : `${given} is how many there are altogether.`;
    case 'other part':
      return `${given} ${otherPart(head, takes)}.`;
    case 'part said back':
      if (head === 'groups')
        return fact.split(':')[1] === String(given) ? `${given} is how many groups.` : `${given} is one group.`;
      return `${given} is one ${words.part}. There is more.`;
    case 'added instead':
      return takes ? `${given} is both put together.` : `${given} is more than we want to make.`;
    case 'took away instead':
      return `${given} is one taken from the other. We put them together.`;
    case 'one off':
      return 'Very close. Let’s check.';
    case 'ran past':
      return 'Remember where we stop.';
    case 'one row only':
      return `${given} is one row.`;
    case 'empty boxes':
      return `${given} is how many boxes are empty.`;
    case 'writing slip':
      return 'Look closely at its shape.';
    case 'ten left out':
      return `${given} comes after the ten.`;
    case 'something else':
      return 'Let’s check.';
  }
}

/** Of two sides that are to be made the same: how many one of them has. */
const onOneSide = (mistake: Mistake, given: number): string =>
  mistake === 'other part' || mistake === 'whole instead of part'
    ? `${given} is how many there are on one side.`
    : 'Let’s check.';

/** What the other part is, by where it is seen. */
function otherPart(head: string, takes: boolean): string {
  if (takes) return 'went away';
  switch (head) {
    case 'top':
      return 'is the bottom row';
    case 'below':
      return 'is the top row';
    case 'side':
      return 'is the other side';
    case 'groups':
      return 'is how many are in one group';
    default:
      return 'is what we have already';
  }
}
