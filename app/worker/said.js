/** The cache of what the server said to whoever is here: it goes with them. */
export const SAID = 'zephyrfield-said';
