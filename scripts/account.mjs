// npm run account: who may come in, for whoever can read the data folder.
import { become, ensureBuilt, ensureInstalled } from './lib.mjs';

ensureInstalled();
ensureBuilt();
become(['server/dist/account.js', ...process.argv.slice(2)]);
