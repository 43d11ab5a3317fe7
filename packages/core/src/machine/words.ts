/** `S` of full power in G-code. */
export const FULL_POWER = 1000;
