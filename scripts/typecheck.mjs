/** npm run typecheck: the types of every package, its tests, and all beside. */
import { checkNode, giveUp, installPackages, say } from './parts/machine.mjs';
import { checkTypes } from './parts/types.mjs';

checkNode();
installPackages();
const wrong = await checkTypes();
if (wrong > 0) giveUp(`${wrong} ${wrong === 1 ? 'part has' : 'parts have'} wrong types.`);
say('All types are right.');
