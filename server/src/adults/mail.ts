import { mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { LetterView } from '@vane/contract';

export interface Letter {
  readonly to: string;
  readonly subject: string;
  readonly text: string;
  readonly at: Date;
}

/** Where letters go. A real post would be another of these. */
export interface Mail {
  send(letter: Letter): Promise<void>;
  /** What this post keeps to be read here, newest first; nothing where letters really go out. */
  sent(to?: readonly string[]): Promise<LetterView[]>;
}

/** One header line cannot become two. */
const headed = (text: string): string => text.replace(/[\r\n]+/g, ' ');

/**
 * The post that ships with Vane: a folder of .eml files that only this user can read. It is simulated: nothing leaves the machine, and whoever looks after Vane
 * hands the letters on.
 */
export class MailFolder implements Mail {
  #count = 0;

  constructor(private readonly folder: string) {}

  async send({ to, subject, text, at }: Letter): Promise<void> {
    await mkdir(this.folder, { recursive: true, mode: 0o700 });
    const lines = [
      `Date: ${at.toUTCString()}`,
      `To: ${headed(to)}`,
      `Subject: ${headed(subject)}`,
      'Content-Type: text/plain; charset=utf-8',
      '',
      text,
    ];
    const name = `${at.toISOString().replaceAll(':', '-')}-${process.pid}-${this.#count++}.eml`;
    await writeFile(join(this.folder, name), lines.join('\r\n'), { mode: 0o600 });
  }

  async sent(to?: readonly string[]): Promise<LetterView[]> {
    const names = await readdir(this.folder).catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT') return [];
      throw error;
    });
    const letters = await Promise.all(
      names
        .filter((name) => name.endsWith('.eml'))
        .map(async (name) => readLetter(await readFile(join(this.folder, name), 'utf8'))),
    );
    return letters
      .filter((letter) => to === undefined || to.includes(letter.to))
      .sort((a, b) => (a.at < b.at ? 1 : -1));
  }
}

function readLetter(eml: string): LetterView {
  const [head = '', ...text] = eml.split('\r\n\r\n');
  const headers = new Map(
    head.split('\r\n').map((line) => [line.slice(0, line.indexOf(':')), line.slice(line.indexOf(':') + 2)]),
  );
  return {
    to: headers.get('To') ?? '',
    subject: headers.get('Subject') ?? '',
    text: text.join('\r\n\r\n'),
    at: new Date(headers.get('Date') ?? 0).toISOString(),
  };
}
