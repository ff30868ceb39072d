/** The page and its files. */
export const SHELL = 'nook-bend-page';
/** Answers of the server that a bench card is made of. */
export const ANSWERS = 'nook-bend-answers';
