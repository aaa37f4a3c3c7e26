// npm run worker: does proofs for the servers that share a database.
import { become, ensureBuilt, ensureInstalled } from './lib.mjs';

ensureInstalled();
ensureBuilt();
become(['server/dist/worker.js']);
