import { createServer, type RequestListener, type Server } from 'node:http';

/** Connections that may be open at the same time; more are closed at once. */
const MAX_CONNECTIONS = 1000;

/** A server with the limits that every connection has, not listening yet. */
export function createHttpServer(handler: RequestListener): Server {
  // A head that is not there after ten seconds, or a whole request after thirty, ends its connection.
  const server = createServer(
    { headersTimeout: 10_000, requestTimeout: 30_000, connectionsCheckingInterval: 1000 },
    handler,
  );
  server.maxConnections = MAX_CONNECTIONS;
  // Longer than clients keep a connection that is idle: one that both end at the same time loses a request.
  server.keepAliveTimeout = 65_000;
  return server;
}
