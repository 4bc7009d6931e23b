import type { Question } from './askDialog';

/** Before a child's record goes for good. */
export const deleteQuestion = (nickname: string): Question => ({
  title: $localize`Delete ${nickname}?`,
  words: $localize`Every answer, reading, override and note about ${nickname} is deleted for good, everywhere in Vane. If your setting has to keep anything, export it first, at the end of the child’s page.`,
  field: { label: $localize`Type ${nickname} to continue`, value: '', must: nickname },
  act: $localize`Delete for good`,
});
