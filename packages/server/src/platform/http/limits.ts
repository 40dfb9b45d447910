import type { IncomingMessage, Server, ServerResponse } from 'node:http';
import type { Socket } from 'node:net';
import { refused } from '../refused.ts';

const LOOK_MS = 5_000;
/** A body of JSON is there within this time. */
const WHOLE_MS = 30_000;
/** An upload has no total time limit while it progresses: at least so many bytes in each window. */
const WINDOW_MS = 30_000;
const WINDOW_BYTES = 8 * 1024;
const HEADERS_MS = 20_000;

type Limits = { look: number; whole: number; window: number; bytes: number };
const LIMITS: Limits = { look: LOOK_MS, whole: WHOLE_MS, window: WINDOW_MS, bytes: WINDOW_BYTES };

const hasBody = ({ headers }: IncomingMessage) =>
  headers['transfer-encoding'] !== undefined || Number(headers['content-length'] ?? 0) > 0;

/**
 * Ends requests whose bodies are held open: one of JSON by its total time, every other one when it stalls. A file over a
 * slow line is taken, a body of one byte every ten seconds is not.
 */
export const limitBodies =
  (limits: Limits = LIMITS) =>
  (request: IncomingMessage, response: ServerResponse, next: (error?: unknown) => void): void => {
    if (!hasBody(request)) {
      next();
      return;
    }
    const { socket } = request;
    const isWhole = /^application\/json/.test(request.headers['content-type'] ?? '');
    const began = performance.now();
    let mark = { at: began, bytes: socket.bytesRead };
    let isReported = false;
    const timer = setInterval(() => {
      if (request.complete || request.destroyed) {
        clearInterval(timer);
        return;
      }
      const now = performance.now();
      const isOverdue = isWhole
        ? now - began > limits.whole
        : now - mark.at > limits.window && socket.bytesRead - mark.bytes < limits.bytes;
      if (now - mark.at > limits.window) mark = { at: now, bytes: socket.bytesRead };
      if (!isOverdue) return;
      clearInterval(timer);
      response.once('finish', () => socket.destroy());
      // A client that is reading learns it from the end of the stream.
      if (!isReported && !response.headersSent) {
        isReported = true;
        response.setHeader('Connection', 'close');
        next(refused('body_too_slow'));
      }
      setTimeout(() => socket.destroy(), 1000).unref();
    }, limits.look);
    timer.unref();
    response.once('close', () => clearInterval(timer));
    next();
  };

/** Bounds what one address can hold open, and how long a server waits for the head of a request. */
export const limitConnections = (server: Server, mostPerAddress: number | undefined): void => {
  server.headersTimeout = HEADERS_MS;
  // Bodies have limits of their own.
  server.requestTimeout = 0;
  if (mostPerAddress === undefined) return;
  const open = new Map<string, number>();
  server.on('connection', (socket: Socket) => {
    const address = socket.remoteAddress ?? '';
    const count = (open.get(address) ?? 0) + 1;
    open.set(address, count);
    socket.once('close', () => {
      const left = (open.get(address) ?? 1) - 1;
      if (left > 0) open.set(address, left);
      else open.delete(address);
    });
    if (count > mostPerAddress) socket.destroy();
  });
};
