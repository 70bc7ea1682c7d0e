import { keptSpecFields, newId, refuse, specFile } from '@tolvik/core';
import { Router } from 'express';
import { transaction } from '../db/database';
import { beginWithSpec, dropKeptSpec, keepSpec, listKeptSpecs, MAX_KEPT_SPECS } from '../db/kept-specs';
import type { Context } from './context';

/** Specs kept for all projects. */
export function specRoutes({ db }: Context): Router {
  const router = Router();
  router.get('/specs', async (_req, res) => void res.json({ specs: await listKeptSpecs(db) }));
  router.post('/specs', async (req, res) => {
    const body = specFile.parse(req.body);
    const id = newId();
    if (!(await keepSpec(db, id, body)))
      refuse('spec.many', `${MAX_KEPT_SPECS} specs are kept already`, { accepted: 'fewer kept specs' });
    res.status(201).json({ id, name: body.spec.name, body, isFirst: false });
  });
  router.patch('/specs/:id', async (req, res) => {
    const { isFirst } = keptSpecFields.parse(req.body);
    const spec = await transaction(db, (client) => beginWithSpec(client, String(req.params.id), isFirst));
    res.json(spec ?? refuse('not.found', 'there is no such spec'));
  });
  router.delete('/specs/:id', async (req, res) => {
    if (!(await dropKeptSpec(db, String(req.params.id)))) refuse('not.found', 'there is no such spec');
    res.status(204).end();
  });
  return router;
}
