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

/** This browser, by a name it made for itself. */
export const author = named();

/** Says who asks, so that undo is this browser's own. */
export const authorHeader = { 'Nook-Author': author };

/** Who did something, as it is shown: a device that nobody named is told as that. */
export function whoText(name: string): string {
  return /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(name) ? 'unnamed device' : name;
}
