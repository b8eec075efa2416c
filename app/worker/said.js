/** The cache of what the server said to whoever is here: it goes with them. */
export const SAID = 'zephyrfield-said';
/** Tells the worker to forget it, and what is on its way to it. */
export const FORGET = 'forget';
