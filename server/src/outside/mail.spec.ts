import { once } from 'node:events';
import type { AddressInfo } from 'node:net';
import { SMTPServer } from 'smtp-server';
import { Post, type Letter } from './mail';

const LETTER: Letter = {
  schoolId: 'school',
  secret: true,
  to: 'mate@saltmarsh.example',
  replyTo: 'office@saltmarsh.example',
  subject: 'A new password – für Vane\r\nBcc: everybody@saltmarsh.example',
  text: 'Open this:\nhttps://vane.example/reset/x',
  at: new Date('2026-11-25T09:00:00Z'),
};

describe('a real post', () => {
  let server: SMTPServer;
  let refuses = false;
  const got: { readonly to: readonly string[]; readonly from: string; readonly message: string }[] = [];
  beforeAll(async () => {
    server = new SMTPServer({
      authOptional: true,
      disabledCommands: ['STARTTLS'],
      onRcptTo: (_, __, done) => done(refuses ? new Error('no such person') : null),
      onData(stream, session, done) {
        let message = '';
        stream.setEncoding('utf8');
        stream.on('data', (part: string) => (message += part));
        stream.on('end', () => {
          const { mailFrom, rcptTo } = session.envelope;
          got.push({ message, to: rcptTo.map((one) => one.address), from: mailFrom === false ? '' : mailFrom.address });
          done();
        });
      },
    });
    server.listen(0, '127.0.0.1');
    await once(server.server, 'listening');
  });
  afterAll(async () => {
    const closed = once(server.server, 'close');
    server.close();
    await closed;
  });
  const post = (): Post =>
    new Post(`smtp://127.0.0.1:${(server.server.address() as AddressInfo).port}`, 'vane@saltmarsh.example');

  it('takes a letter to its reader alone, whatever stands in its subject, and keeps nothing of it', async () => {
    await post().send(LETTER);
    const [letter] = got;
    expect(letter).toMatchObject({ to: ['mate@saltmarsh.example'], from: 'vane@saltmarsh.example' });
    expect(letter?.message).toMatch(/^Reply-To: office@saltmarsh.example$/m);
    expect(letter?.message).toMatch(/^Date: Wed, 25 Nov 2026 09:00:00 \+0000$/m);
    expect(letter?.message).not.toMatch(/^Bcc:/m);
    expect(letter?.message).toContain('https://vane.example/reset/x');
    expect(await post().sent()).toEqual([]);
  });

  it('says when a letter could not be handed in', async () => {
    refuses = true;
    await expect(post().send(LETTER)).rejects.toThrow('no such person');
  });
});
