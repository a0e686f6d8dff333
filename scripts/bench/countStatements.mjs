import http from 'node:http';
import Database from 'better-sqlite3';

/**
 * Loaded into a server before anything else: counts the statements it runs and answers `/--statements` with what has
 * run since it was last asked. The app itself knows nothing of it.
 */
const counts = new Map();
const prototype = Object.getPrototypeOf(new Database(':memory:').prepare('select 1'));
for (const name of ['all', 'get', 'run', 'iterate']) {
  const original = prototype[name];
  prototype[name] = function counted(...values) {
    counts.set(this.source, (counts.get(this.source) ?? 0) + 1);
    return original.apply(this, values);
  };
}

const emit = http.Server.prototype.emit;
http.Server.prototype.emit = function answered(event, ...rest) {
  const [request, response] = rest;
  if (event !== 'request' || request.url !== '/--statements') return emit.call(this, event, ...rest);
  response.setHeader('content-type', 'application/json');
  response.end(JSON.stringify([...counts].sort((a, b) => b[1] - a[1])));
  counts.clear();
  return true;
};
