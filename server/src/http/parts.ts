import { createHash } from 'node:crypto';
import { readMarks, writeMarks } from '@bistre/contract';

/** Shorter ones are always sent: naming them would be as long. */
const WORTH_NAMING = 200;

const markOf = (text: string): string => createHash('sha1').update(text).digest('base64url').slice(0, 16);

/**
 * An answer without the parts that its asker has already, and the marks of all.
 * @param body a document as JSON
 * @param have the asker's header
 */
export const onlyNew = (body: string, have: string | undefined): { readonly body: string; readonly parts: string } => {
  const known = readMarks(have);
  const marks: Record<string, string> = {};
  const sent: string[] = [];
  for (const [name, part] of Object.entries(JSON.parse(body) as Record<string, unknown>)) {
    const text = JSON.stringify(part);
    if (text.length > WORTH_NAMING) {
      marks[name] = markOf(text);
      if (known[name] === marks[name]) continue;
    }
    sent.push(`${JSON.stringify(name)}:${text}`);
  }
  return { body: `{${sent.join(',')}}`, parts: writeMarks(marks) };
};
