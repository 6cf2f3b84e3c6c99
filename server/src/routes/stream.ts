/** Server-sent events: one line of JSON per change, and a heartbeat so that proxies keep it open. */
import type { RequestHandler } from 'express';
import type { Stream } from '../services/stream.ts';

const HEARTBEAT_MS = 20_000;
/** Bytes that wait for one browser. */
export const MOST_UNREAD = 4_000_000;

export function streamHandler(stream: Stream): RequestHandler {
  return (request, response) => {
    response.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-cache, no-transform',
      connection: 'keep-alive',
    });
    response.write('retry: 1000\n\n');
    const end = stream.listen((message) => {
      response.write(`data: ${JSON.stringify(message)}\n\n`);
      // Who reads too slowly is let go: it comes back and asks for everything anew, and nobody's memory fills.
      if (response.writableLength > MOST_UNREAD) response.destroy();
    });
    const heartbeat = setInterval(() => response.write(': still here\n\n'), HEARTBEAT_MS);
    request.on('close', () => {
      clearInterval(heartbeat);
      end();
    });
  };
}
