const key = 'nook-bend-author';

function named(): string {
  try {
    const kept = localStorage.getItem(key);
    if (kept) return kept;
    const made = crypto.randomUUID();
    localStorage.setItem(key, made);
    return made;
  } catch {
    // A browser that keeps nothing is somebody new each time.
    return crypto.randomUUID();
  }
}

/** Says who asks, so that undo is this browser's own. */
export const authorHeader = { 'Nook-Author': named() };
