import type { OptionName, Options } from '../../routines/options';
import type { RoutineGroup } from '../../routines/routine';
import type { PathStep } from '../../routines/shelf';
import type { RoutineId } from '../../routines/routineIds';

/** Titles and what happens, in a sentence or two. */
export const routines: Record<RoutineId, { readonly title: string; readonly about: string }> = {
  'learn-frame': {
    title: 'Learn the frame',
    about:
      'How many boxes, above and below; the start box; one in each box, one row filled before the next, said aloud; the same number anywhere and by the rule; empty and full. Take your time.',
  },
  'make-it': {
    title: 'Make it, then ask me',
    about:
      'The child fills the frame, says how many more to five or ten and the whole fact; then they set a number for you, you answer wrong on purpose, and they put you right.',
  },
  'objects-to-numeral': {
    title: 'Objects to a numeral',
    about: 'A numeral is shown; the child puts out that many real things, zero included. You enter how many are there.',
  },
  'flash-and-say': {
    title: 'Flash and say',
    about: 'A picture is shown for a moment; the child says or taps how many.',
  },
  'flash-and-build': {
    title: 'Flash and build',
    about:
      'A frame is shown for a moment; the child builds it, sees it again and checks their own work. Then come the questions that the number decides: to five; the full row; top row, bottom row and altogether.',
  },
  'changing-frame': {
    title: 'The frame changes',
    about: 'The frame is never cleared, only changed: how many now, and how many boxes are empty?',
  },
  'talk-about-it': {
    title: 'What can you say about it?',
    about:
      'One frame stays in view, and you ask every question that suits its number: to five, top and bottom row, altogether, empty, one more, one less.',
  },
  'same-or-different': {
    title: 'Same or different',
    about: 'Two sets in two arrangements are shown for a moment: the same number on both sides, or not?',
  },
  'which-more': {
    title: 'Which has more, and make equal',
    about: 'Two sets stay in view: which side has more, and how many more would make both sides the same?',
  },
  'one-more': { title: 'And one more', about: 'A set is seen at a glance, one more comes beside it: how many now?' },
  'equal-groups': {
    title: 'Equal groups',
    about: 'Groups of two or five: how many groups, then counted in twos or fives.',
  },
  'to-five': {
    title: 'How many more to five',
    about: 'A five frame is shown for a moment; the child says how many more make five.',
  },
  'hide-and-picture': {
    title: 'Hide and picture',
    about:
      'The child sees the card, then it is hidden; they picture it and say what makes ten. Then the card comes back to check.',
  },
  'ten-card': {
    title: 'Ten facts from a card',
    about:
      'One card: how many, small numbers by way of five (four, one more to five, five more to ten), how many boxes are empty, both together, and what is left when the empty ones are taken from ten.',
  },
  'five-card': {
    title: 'Five facts from a card',
    about: 'The same with a five frame, before ten: how many, how many are empty, both together, and what is left.',
  },
  'folded-fingers': {
    title: 'Folded fingers',
    about: 'Ten fingers, some folded down: the child says how many are folded, then turns their hands round and looks.',
  },
  'one-cut': {
    title: 'One cut',
    about:
      'The child counts a row, cuts it once, says both parts and the sentence, and turns it round; put back together, they cut it somewhere else. A cut never makes an empty part.',
  },
  stick: {
    title: 'Snap the stick',
    about:
      'A stick in two patterns is read as a sum, then snapped: the child says the part they see and the part that is hidden, then the sentence, both ways round.',
  },
  'moving-counters': {
    title: 'One moves across',
    about:
      'All the counters are on one tray; one after another moves to the other, and the whole stays the same. An empty tray is a part too.',
  },
  dominoes: {
    title: 'The domino turns',
    about:
      'A domino is read half by half and as a sum, turned round and read again; then one half is covered, and the child says the sentence.',
  },
  'part-whole': { title: 'Part and whole', about: 'The part-whole picture: the whole or either part is missing.' },
  chance: {
    title: 'A die picks',
    about:
      'A dice gives the first part, the child says the other. A dice leaves some pairs out: to find out what a child knows, use Sums instead.',
  },
  'all-the-ways': {
    title: 'All the ways',
    about:
      'One board for everybody: each child in turn adds a way to make one number. A repeat or a turned pair lights up; half way you ask whether that is all of them, and the last one is reasoned out.',
  },
  sums: { title: 'Sums', about: 'Addition, mixed: in symbols, with a picture, or with objects.' },
  doubles: { title: 'Doubles', about: 'The same number twice.' },
  'take-away': { title: 'Take away', about: 'Take-away, mixed. Best once addition is secure.' },
  'missing-part': {
    title: 'Missing part',
    about:
      'The gap at the end, or anywhere in the sentence. With a picture: what there is, a ring round the total, counted on; the last one without a word from you.',
  },
  family: {
    title: 'Fact family',
    about: 'The four sentences of one pair, one after the other; each answer is recorded separately.',
  },
  cards: {
    title: 'Picture cards, then number cards',
    about: 'Sums on cards with their picture first; then the same sums with numbers alone, in another order.',
  },
  'crossed-off': {
    title: 'Some go away',
    about:
      'A full frame; some are crossed off or moved out, five as the full row; how many are left? Then they are put back. The picture stays in view, so this is practice, not proof.',
  },
  story: {
    title: 'Story, frame, sentence',
    about:
      'Some here, some more come: told, put on the frame, then read as a sentence; at the end the child tells a story of their own.',
  },
  'three-parts': {
    title: 'Three parts',
    about:
      'Three small parts from left to right first; then find the two that make ten; every third time one part is missing.',
  },
  'past-ten': {
    title: 'Past ten by making ten',
    about:
      'Two frames from the start: keep the number nearer to ten, split the other, move just enough, then ten and the rest; at the end the sentences, both ways round.',
  },
  'hides-ten': {
    title: 'Which hides a ten?',
    about: 'Three sentences: one of them hides a ten. Which one, and where?',
  },
  planned: {
    title: 'As planned',
    about:
      'Each child is asked what their plan proposes: an easy one first, new and known mixed. A child without a plan is asked sums.',
  },
  'working-number': {
    title: 'Working-number check',
    about:
      'Quick pairs from the child’s working number: up while they come at once, down when they do not. Under four minutes; what it found is for you alone.',
  },
  'exit-question': {
    title: 'One question before you go',
    about: 'One quick question for each child before they leave the carpet.',
  },
  close: {
    title: 'Close',
    about:
      'Each child says one way to make the number of the day; all are read once more, each tells a friend one, and is asked one question at the door.',
  },
};

export const groups: Record<RoutineGroup, string> = {
  'learn the frame': 'learn the frame',
  seeing: 'seeing',
  'the frame and ten': 'the frame and ten',
  pairs: 'pairs',
  facts: 'facts',
  'three parts and past ten': 'three parts and past ten',
  'check and close': 'check and close',
};

/** Where a routine stands on the path from things to symbols. */
export const steps: Record<PathStep, string> = {
  objects: 'with objects',
  picture: 'picture in view',
  remembered: 'picture remembered',
  symbols: 'symbols',
};

type Option<O extends OptionName> = {
  readonly title: string;
  readonly values: Readonly<Record<Options[O], string>>;
  /** Why the usual value is the usual one. */
  readonly why: string;
};

export const options: { readonly [O in OptionName]: Option<O> } = {
  direction: {
    title: 'Frame',
    values: { rows: 'across', columns: 'upright' },
    why: 'Across: the same picture every time. Upright once that one is secure.',
  },
  startBox: {
    title: 'Start box',
    values: { shown: 'marked', hidden: 'not marked' },
    why: 'Marked at first, so that every frame is filled from the same box.',
  },
  kinds: {
    title: 'Counters',
    values: { one: 'all alike', fives: 'two kinds, by five' },
    why: 'All alike when finding out; two kinds, different in shape, when children should notice the five.',
  },
  counters: {
    title: 'Drawn as',
    values: { dots: 'plain dots', things: 'the class’s own things' },
    why: 'Plain dots keep every picture alike. Things are for stories and talk.',
  },
  help: {
    title: 'With',
    values: { symbols: 'symbols only', picture: 'a picture in view', objects: 'objects in hand' },
    why: 'Objects first, then a picture, then symbols. Only symbols prove that a fact is known; the record says which it was.',
  },
  order: {
    title: 'Order',
    values: { mixed: 'mixed', rising: 'rising' },
    why: 'Mixed when finding out: in order, one answer gives the next away. Rising when teaching.',
  },
  gap: {
    title: 'Gap',
    values: { last: 'last part missing', anywhere: 'anywhere' },
    why: 'Anywhere, and with the total on either side, once addition is secure.',
  },
  away: {
    title: 'Taken away by',
    values: { crossed: 'crossing off', moved: 'moving out', row: 'a whole row of five' },
    why: 'Crossed off means gone; moved out looks different. The whole row when five goes.',
  },
  parts: {
    title: 'Missing',
    values: { turns: 'whole and parts in turn', whole: 'the whole', part: 'a part' },
    why: 'In turn, so that the picture alone never gives the answer. The whole first for beginners.',
  },
  groupsOf: { title: 'Groups of', values: { two: 'two', five: 'five' }, why: 'Twos first: they are seen at a glance.' },
  rule: {
    title: 'Ways counted',
    values: {
      'turned-zero': 'turned pairs separately, with zero',
      turned: 'turned pairs separately, without zero',
      zero: 'turned pairs as one, with zero',
      plain: 'turned pairs as one, without zero',
    },
    why: 'Separately and with zero: that is the set of facts that is judged. All four totals are shown.',
  },
  ways: {
    title: 'Ways found',
    values: { free: 'freely, then checked', order: 'in order', withheld: 'all but one given' },
    why: 'Freely shows what a child has ready; in order shows the pattern; the one held back is worked out.',
  },
  slots: {
    title: 'How many are left',
    values: { hidden: 'not shown', shown: 'shown as empty places' },
    why: 'Not shown: to know that all are found is the children’s work.',
  },
  three: {
    title: 'Three parts',
    values: { ten: 'find the ten', left: 'left to right' },
    why: 'Find the two that make ten first; left to right when no two do.',
  },
  past: {
    title: 'Past ten',
    values: { two: 'two frames', one: 'one frame, the rest outside' },
    why: 'Two frames first: the move and the gap are both in view.',
  },
};

/** The usual cautions, to be shown wherever the work calls for them. */
export const cautions = {
  flash:
    'One gentle showing at a time, never more than two in a second. A child with a photosensitive condition follows their own care plan.',
  objects:
    'Small things can choke: keep them away from children under three and from any child who still puts things in their mouth, by your setting’s own rules. Food needs your rules on allergies and hygiene.',
};
