// npm start: own data in data/own, or in DATA_DIR.
import { become, ensureBuilt, ensureInstalled } from './lib.mjs';

ensureInstalled();
ensureBuilt();
become(['server/dist/main.js']);
