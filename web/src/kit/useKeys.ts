import { useEffect, useRef } from 'react';

/** Whether a key press is meant for what has the focus and not for the bench. */
function elsewhere(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  if (event.ctrlKey || event.metaKey) return true;
  return (
    target.closest(
      'input, textarea, select, [role="dialog"], [role="listbox"], [role="combobox"], [role="menu"]',
    ) !== null
  );
}

/** Calls `act` for key presses that are not typed into a field; `act` says whether it used the press. */
export function useKeys(act: (event: KeyboardEvent) => boolean) {
  const latest = useRef(act);
  latest.current = act;
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (!elsewhere(event) && latest.current(event)) event.preventDefault();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}
