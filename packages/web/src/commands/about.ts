import { type Command, showCommands } from './commands';

type Tell = (words: string, how?: { bad?: boolean }) => void;

/** Ends what lets this browser in, here and on the server; where no key is asked for, that is said. */
async function endAccess(tell: Tell): Promise<void> {
  const { status, ok } = await fetch('/access/end', { method: 'POST' }).catch(
    () => new Response(null, { status: 503 }),
  );
  if (status === 404) tell('This server asks nobody for a key.');
  else if (ok) window.location.assign('/');
  else tell('The server could not be reached; this browser is still let in.', { bad: true });
}

/** Commands about the app and this browser, available in every stage and on the Shelf. */
export const aboutCommands = (tell: Tell): Command[] => [
  { id: 'glossary', group: 'Go', title: 'What words mean here', run: () => showCommands('glossary') },
  {
    id: 'end-access',
    group: 'Go',
    title: 'Ask for the access key again in this browser',
    run: () => void endAccess(tell),
  },
  {
    id: 'notices',
    group: 'Go',
    title: 'Licences of what Tolvik is made of',
    run: () => void window.open('/third-party-notices.txt', '_blank', 'noopener'),
  },
];
