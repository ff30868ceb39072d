import type { Ref } from 'react';

interface Props {
  ref: Ref<HTMLInputElement>;
  label: string;
  /** Endings and kinds of file that are offered. */
  accept: string;
  onFile: (file: File) => void;
}

/** What a button or a menu opens to choose a file; the same file may be chosen again. */
export function FileInput({ ref, label, accept, onFile }: Props) {
  return (
    <input
      ref={ref}
      type='file'
      accept={accept}
      hidden
      aria-label={label}
      onChange={(event) => {
        const [file] = event.target.files ?? [];
        if (file) onFile(file);
        event.target.value = '';
      }}
    />
  );
}
