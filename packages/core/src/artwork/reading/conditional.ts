import type { XmlElement } from '../markup/xml';

/** The language that artwork is read in, where it asks. */
const LANGUAGE = 'en';

/** Whether an element's conditions hold (SVG 2 §5.8): no extension is known, and the language is English. */
export function isForUs({ attrs }: XmlElement): boolean {
  if (attrs.requiredExtensions !== undefined) return false;
  const languages = attrs.systemLanguage;
  if (languages === undefined) return true;
  return languages.split(',').some((tag) => {
    const language = tag.trim().toLowerCase();
    return language === LANGUAGE || language.startsWith(`${LANGUAGE}-`);
  });
}
