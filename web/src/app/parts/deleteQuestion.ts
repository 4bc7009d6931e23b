import type { Question } from './askDialog';

/** Before a child's record goes for good. */
export const deleteQuestion = (nickname: string): Question => ({
  title: `Delete ${nickname}?`,
  words: `Every answer, reading, overrule and note of ${nickname} is deleted for good, everywhere in Vane. What your setting has to keep, save first: at the end of the child’s page.`,
  field: { label: `Write ${nickname} to go on`, value: '', must: nickname },
  act: 'Delete for good',
});
