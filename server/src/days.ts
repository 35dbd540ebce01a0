const DAY_MS = 24 * 60 * 60 * 1000;

/** The moment so many days from now; before now where they are fewer than none. */
export const inDays = (days: number): Date => new Date(Date.now() + days * DAY_MS);
