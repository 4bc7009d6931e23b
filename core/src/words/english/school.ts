/** Acts of the audit by their code. */
export const acts = {
  'signed in': 'signed in',
  'signed out everywhere': 'signed out everywhere',
  'password changed': 'changed their password',
  'password reset': 'reset their password',
  'adult invited': 'invited an adult',
  'adult joined': 'joined',
  'adult changed': 'changed an adult',
  'adult removed': 'removed an adult',
  'link made for a helper': 'made a link for a helper',
  'link for a helper ended': 'ended a link for a helper',
  exported: 'exported',
  imported: 'imported',
  'import taken back': 'undid an import',
  'school reopened': 'opened the school again, which was to be carried elsewhere',
  'put right': 'put answers into the right class',
  'invitations ended': 'ended open invitations',
  overruled: 'overrode a reading',
  corrected: 'corrected',
  'child moved': 'moved a child',
  'support changed': 'changed the adjustments for a child',
  'support read': 'read the adjustments in a class not their own',
  'child archived': 'archived a child',
  'child deleted': 'deleted a child',
  'school opened': 'opened the school',
  'limits changed': 'changed what the school may have',
  'class added': 'added a class',
  'class archived': 'archived a class',
  'class deleted': 'deleted a class',
  'year rolled over': 'ended the year',
};

/** Letters: subject and text. */
export const letters = {
  invitation: (by: string, school: string, link: string) => ({
    subject: `Vane at ${school}`,
    text: `${by} invites you to use Vane at ${school}. Open this link within a week and choose a password:\n\n${link}`,
  }),
  newPassword: (link: string) => ({
    subject: 'A new password for Vane',
    text: `Somebody asked for a new password for Vane. If it was you, open this link within an hour:\n\n${link}\n\nIf it was not you, nothing has changed.`,
  }),
};
