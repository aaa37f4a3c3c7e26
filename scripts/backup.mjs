// npm run backup, npm run restore: everything in one file, and back into an empty folder.
import { become, ensureBuilt, ensureInstalled } from './lib.mjs';

ensureInstalled();
ensureBuilt();
become(['server/dist/backup.js', ...process.argv.slice(2)]);
