/** How long a password is, in characters. */
export const leastPassword = 12;
export const mostPassword = 128;
