/** What is written down whenever it happens. */
export const AUDITED = [
  'signed in',
  'signed out everywhere',
  'password changed',
  'password reset',
  'adult invited',
  'adult joined',
  'adult changed',
  'adult removed',
  'exported',
  'imported',
  'import taken back',
  'overruled',
  'corrected',
  'child moved',
  'child archived',
  'child deleted',
  'class added',
  'class archived',
  'class deleted',
  'year rolled over',
] as const;
export type AuditedAct = (typeof AUDITED)[number];
