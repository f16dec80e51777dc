// A mail server on loopback that can be told to behave badly, as real ones do.
import { SMTPServer } from 'smtp-server';

/** Starts it. `mood`: what it does with mail; `taken`: Message-IDs of what it took, with the recipients of each. */
export async function startMailServer() {
  const taken = new Map();
  const state = { mood: 'takes' };
  const refuse = (code, message) => Object.assign(new Error(message), { responseCode: code });
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    logger: false,
    onMailFrom: (_address, _session, done) => done(state.mood === 'busy' ? refuse(451, 'come again later') : null),
    onRcptTo: ({ address }, _session, done) => done(address.startsWith('refused@') ? refuse(550, 'nobody of this name') : null),
    onData: (stream, session, done) => {
      let text = '';
      stream.on('data', (part) => (text += part.toString('latin1')));
      stream.on('end', () => {
        if (state.mood === 'cuts off') return session.socket?.destroy() ?? done(refuse(421, 'going away'));
        const id = /^message-id: *(<[^>]+>)/im.exec(text)?.[1];
        taken.set(id, [...(taken.get(id) ?? []), ...session.envelope.rcptTo.map(({ address }) => address)]);
        // Taken, and yet whoever sent it hears nothing: the next try must be known as the same message.
        if (state.mood !== 'hangs') done();
      });
    },
  });
  server.on('error', () => undefined);
  await new Promise((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.server.address();
  return { url: `smtp://127.0.0.1:${port}`, taken, state, stop: () => new Promise((resolve) => server.close(resolve)) };
}
