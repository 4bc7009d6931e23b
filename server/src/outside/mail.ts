import { mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { LetterView } from '@vane/contract';
import { createTransport } from 'nodemailer';

export interface Letter {
  /** The school that sends it. */
  readonly schoolId: string;
  /** True for letters that open an account: shown only to their reader and the owner of the mail folder. */
  readonly secret: boolean;
  readonly to: string;
  /** Where answers go; null = nowhere else. */
  readonly replyTo: string | null;
  readonly subject: string;
  readonly text: string;
  readonly at: Date;
}

/** Where letters go. */
export interface Mail {
  /** Nothing leaves the machine. */
  readonly simulated: boolean;
  send(letter: Letter): Promise<void>;
  /** What this post keeps of a school's letters, to be read there, newest first; nothing where letters really go out, and no secret ones. */
  sent(schoolId: string): Promise<LetterView[]>;
}

/** One header line cannot become two. */
const headed = (text: string): string => text.replace(/[\r\n]+/g, ' ');

/**
 * The post that ships with Vane: a folder of .eml files that only this user can read. It is simulated: nothing leaves the machine; the person who looks after Vane passes the letters on.
 */
export class MailFolder implements Mail {
  readonly simulated = true;
  #count = 0;

  constructor(private readonly folder: string) {}

  async send({ schoolId, secret, to, replyTo, subject, text, at }: Letter): Promise<void> {
    const folder = join(this.folder, secret ? 'secret' : schoolId);
    await mkdir(folder, { recursive: true, mode: 0o700 });
    const lines = [
      `Date: ${at.toUTCString()}`,
      `To: ${headed(to)}`,
      ...(replyTo === null ? [] : [`Reply-To: ${headed(replyTo)}`]),
      `Subject: ${headed(subject)}`,
      'Content-Type: text/plain; charset=utf-8',
      '',
      text,
    ];
    const name = `${at.toISOString().replaceAll(':', '-')}-${process.pid}-${this.#count++}.eml`;
    await writeFile(join(folder, name), lines.join('\r\n'), { mode: 0o600 });
  }

  async sent(schoolId: string): Promise<LetterView[]> {
    const folder = join(this.folder, schoolId);
    const names = await readdir(folder).catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT') return [];
      throw error;
    });
    const letters = await Promise.all(
      names
        .filter((name) => name.endsWith('.eml'))
        .map(async (name) => readLetter(await readFile(join(folder, name), 'utf8'))),
    );
    return letters.sort((a, b) => (a.at < b.at ? 1 : -1));
  }
}

/** A real post, over SMTP: letters go out, and nothing of them is kept here. */
export class Post implements Mail {
  readonly simulated = false;
  readonly #transport;

  /**
   * @param url `smtp://` or `smtps://`, with a user and a password where they are needed
   * @param from the sender's address
   */
  constructor(
    url: string,
    private readonly from: string,
  ) {
    this.#transport = createTransport(url);
  }
  async send({ to, replyTo, subject, text, at }: Letter): Promise<void> {
    // An address and not what could be read as several.
    const plain = (address: string) => ({ name: '', address });
    const answers = replyTo === null ? {} : { replyTo: plain(replyTo) };
    await this.#transport.sendMail({ from: this.from, to: plain(to), ...answers, subject, text, date: at });
  }
  sent(): Promise<LetterView[]> {
    return Promise.resolve([]);
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
