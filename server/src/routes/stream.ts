/** Server-sent events: one line of JSON per change, and a heartbeat so that proxies keep it open. */
import type { Request, RequestHandler } from 'express';
import type { Stream } from '../services/stream.ts';

const HEARTBEAT_MS = 20_000;
/** What is told within so long is sent together: a bench of sixty-four jobs tells sixty-four things a second, ms. */
const TOGETHER_MS = 100;
/** Bytes that wait for one browser. */
export const MOST_UNREAD = 4_000_000;

/** @param listens whether whoever asked may listen, asked before each word: a browser that was let go hears nothing more */
export function streamHandler(stream: Stream, listens: (request: Request) => () => boolean): RequestHandler {
  return (request, response) => {
    const mayListen = listens(request);
    response.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-cache, no-transform',
      connection: 'keep-alive',
    });
    response.write('retry: 1000\n\n');
    let told = '';
    let soon: NodeJS.Timeout | undefined;
    const send = (): void => {
      soon = undefined;
      if (!mayListen()) {
        response.end();
        return;
      }
      response.write(told);
      told = '';
      // Who reads too slowly is let go: it comes back and asks for everything anew, and nobody's memory fills.
      if (response.writableLength > MOST_UNREAD) response.destroy();
    };
    const end = stream.listen((_message, line) => {
      told += line;
      soon ??= setTimeout(send, TOGETHER_MS);
    });
    const heartbeat = setInterval(() => {
      if (mayListen()) response.write(': still here\n\n');
      else response.end();
    }, HEARTBEAT_MS);
    request.on('close', () => {
      clearInterval(heartbeat);
      clearTimeout(soon);
      end();
    });
  };
}
