/** What is kept of an account: entries of the calendar feed that it reads. */
export const feedShelf = 'feed';
