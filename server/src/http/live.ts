import { EventEmitter } from 'node:events';
import type { Router } from 'express';
import type { Admit } from '../people/access.ts';
import type { Authenticate } from './mount.ts';
import { signInFirst } from './problem.ts';

export interface LiveUpdates {
  /** Tells the open screens that a learner's schedule has changed */
  tell(learnerId: string): void;
  listen(learnerId: string, listener: () => void): () => void;
  /** Tells them that a calendar’s link was checked, and nothing else is new */
  tellChecked(learnerId: string): void;
  listenChecked(learnerId: string, listener: () => void): () => void;
  /** Tells a person's open screens that there is something to be told */
  tellPerson(personId: string): void;
  listenPerson(personId: string, listener: () => void): () => void;
}

export function liveUpdates(): LiveUpdates {
  const emitter = new EventEmitter();
  emitter.setMaxListeners(0);
  const on = (name: string, listener: () => void) => {
    emitter.on(name, listener);
    return () => void emitter.off(name, listener);
  };
  return {
    tell: (learnerId) => void emitter.emit(`learner ${learnerId}`),
    listen: (learnerId, listener) => on(`learner ${learnerId}`, listener),
    tellChecked: (learnerId) => void emitter.emit(`checked ${learnerId}`),
    listenChecked: (learnerId, listener) => on(`checked ${learnerId}`, listener),
    tellPerson: (personId) => void emitter.emit(`person ${personId}`),
    listenPerson: (personId, listener) => on(`person ${personId}`, listener),
  };
}

const BREATH = 25_000;

/**
 * Server-sent events: `changed` whenever a learner's schedule has changed, `checked` when a link was looked at and nothing
 * was new, `told` when the person has been told something. What it is is asked for as always.
 */
export function mountLive(router: Router, authenticate: Authenticate, live: LiveUpdates, admit: Admit): void {
  router.get('/api/learners/:learnerId/live', async (req, res) => {
    const caller = await authenticate(req);
    if (!caller) throw signInFirst();
    const { id } = admit(caller.personId, req.params.learnerId, 'look');
    res.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', Connection: 'keep-alive' });
    res.flushHeaders();
    res.write('retry: 5000\n\n');
    const say = (event: string) => () => void res.write(`event: ${event}\ndata: {}\n\n`);
    const stops = [live.listen(id, say('changed')), live.listenChecked(id, say('checked')), live.listenPerson(caller.personId, say('told'))];
    // Proxies close silent connections.
    const breath = setInterval(() => res.write(': \n\n'), BREATH);
    req.on('close', () => {
      for (const stop of stops) stop();
      clearInterval(breath);
    });
  });
}
