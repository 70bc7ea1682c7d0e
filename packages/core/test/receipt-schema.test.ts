import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import * as z from 'zod';
import { receipt } from '../src';

const FILE = join(__dirname, '../../../docs/delivery.schema.json');

/** `UPDATE_DOCS=1 npx jest receipt-schema` writes it anew. */
test('the schema of receipts that ships is the one that receipts are read by', () => {
  const schema = {
    $id: 'https://tolvik.invalid/schema/delivery.json',
    title: 'Receipt of a delivery, beside its files',
    ...z.toJSONSchema(receipt, { unrepresentable: 'any' }),
  };
  const text = `${JSON.stringify(schema, null, 2)}\n`;
  if (process.env.UPDATE_DOCS) writeFileSync(FILE, text);
  expect(JSON.parse(readFileSync(FILE, 'utf8'))).toEqual(JSON.parse(text));
});
