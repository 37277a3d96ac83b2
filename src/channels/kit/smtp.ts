import { Readable } from 'node:stream';
import { createTransport, type SendMailOptions } from 'nodemailer';
import { isOutsideError, lastWord, OutsideError, type Lastly } from './http';
import type { MailLine, OutgoingMail } from './mail';
import { reachable } from './reach';

const wholeMs = 15_000;

/** A letter as the mail library takes it. */
export function composed(mail: OutgoingMail): SendMailOptions {
  const { from, to, subject, html, text, messageId, inReplyTo, headers, pictures } = mail;
  return {
    from,
    to,
    subject,
    html,
    text,
    messageId: `<${messageId}>`,
    ...(inReplyTo === null ? {} : { inReplyTo: `<${inReplyTo}>`, references: `<${inReplyTo}>` }),
    headers: { ...headers },
    attachments: pictures.map(({ name, bytes }) => ({ filename: name, cid: name, content: Buffer.from(bytes) })),
    disableFileAccess: true,
    disableUrlAccess: true,
  };
}

/** A letter that is read only when the server has said that it takes it (RFC 5321, section 4.1.1.4). */
function* heldBack(letter: Buffer, lastly: Lastly): Generator<Buffer> {
  lastly();
  yield letter;
}

/**
 * Sends letters over SMTP (RFC 5321), to an open address or one of `allowed`. Throws an `OutsideError`; of a letter
 * whose taking was not answered, `unknown-outcome`.
 */
export function makeMail(allowed: ReadonlySet<string>): MailLine {
  return async (mail, lastly) => {
    const last = lastWord(lastly);
    const { host, port, user, password } = mail;
    try {
      const transport = createTransport({
        host: await reachable(host, allowed),
        port,
        secure: port === 465,
        ...(user === '' ? {} : { auth: { user, pass: password } }),
        connectionTimeout: 5_000,
        greetingTimeout: 5_000,
        socketTimeout: wholeMs,
        tls: { servername: host },
      });
      transport.use('stream', ({ message }, done) =>
        message.build((error, letter) => {
          message.createReadStream = () => Readable.from(heldBack(letter, last.ask), { objectMode: false });
          done(error);
        }),
      );
      await transport.sendMail(composed(mail));
    } catch (error) {
      throw last.refusal() ?? (isOutsideError(error) ? error : asOutside(error, host));
    }
  };
}

function asOutside(error: unknown, host: string): OutsideError {
  const { code, command, responseCode, syscall, message } = error as Partial<
    Record<'code' | 'command' | 'syscall' | 'message', string>
  > & {
    responseCode?: number;
  };
  const words = (message ?? String(error)).slice(0, 300);
  const made = (kind: OutsideError['kind'], field: string | null = null) =>
    new OutsideError(kind, words, null, field, { cause: error });
  if (code === 'EAUTH') return made('sign-in-again');
  if (responseCode !== undefined && responseCode >= 500)
    return made('invalid', command === 'RCPT TO' ? 'segment' : null);
  if (responseCode !== undefined && responseCode >= 400) return made('again-later');
  // The library calls a line that was cut at any moment a matter of connecting: only where none was ever made was
  // nothing handed over.
  const never = syscall === 'connect' || code === 'EDNS' || /^(Connection timeout|Greeting never received)/.test(words);
  return new OutsideError(
    never ? 'again-later' : 'unknown-outcome',
    `no answer from ${host} (${code ?? 'cut off'})`,
    null,
    null,
    { cause: error },
  );
}
