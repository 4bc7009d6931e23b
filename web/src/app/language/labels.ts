/** Accessible names with something in them; those without stand in the templates. */
export const labels = {
  box: (n: number) => $localize`box ${n}`,
  change: (name: string) => $localize`Change ${name}`,
  correct: (child: string, fact: string) => $localize`Correct: ${child}, ${fact}`,
  cutAfter: (n: number) => $localize`cut after ${n}`,
  deleteNote: (note: string) => $localize`Delete note: ${note}`,
  earlier: (session: string) => $localize`Earlier: ${session}`,
  enterSheet: (code: string) => $localize`Enter ${code}`,
  later: (session: string) => $localize`Later: ${session}`,
  remove: (what: string) => $localize`Remove ${what}`,
  restore: (session: string, children: string) => $localize`Restore: ${session}, ${children}`,
  saveAsPng: (chart: string) => $localize`Save as PNG: ${chart}`,
  saveAsSvg: (chart: string) => $localize`Save as SVG: ${chart}`,
  says: (n: number) => $localize`Says ${n}`,
  undoImport: (what: string) => $localize`Undo import: ${what}`,
  uploading: (file: string | undefined) => $localize`Uploading ${file}`,
  withdraw: (name: string) => $localize`Withdraw the invitation for ${name}`,
};
