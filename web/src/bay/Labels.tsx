import { useFrame, useThree } from '@react-three/fiber';
import { type RefObject, useEffect } from 'react';
import { Vector3 } from 'three';

export interface BayLabel {
  key: string;
  at: readonly [number, number, number];
  text: string;
  look: 'end' | 'lit' | 'name' | 'wrong';
}

const classes: Record<BayLabel['look'], string> = {
  end: 'bay-label',
  lit: 'bay-label bay-label-lit',
  name: 'bay-name',
  wrong: 'bay-label bay-label-wrong',
};

/** The words over the bay; [`LabelPlacer`] puts them where they belong. */
export function LabelLayer({
  labels,
  layer,
}: {
  labels: BayLabel[];
  layer: RefObject<HTMLDivElement | null>;
}) {
  return (
    <div ref={layer} className='bay-labels'>
      {labels.map((label) => (
        <div key={label.key} className={classes[label.look]}>
          {label.text}
        </div>
      ))}
    </div>
  );
}

/** Moves each word to its place after every frame; one that would cover an earlier one is left out. */
export function LabelPlacer({
  labels,
  layer,
}: {
  labels: BayLabel[];
  layer: RefObject<HTMLDivElement | null>;
}) {
  const invalidate = useThree((three) => three.invalidate);
  // biome-ignore lint/correctness/useExhaustiveDependencies: changed words want a new frame
  useEffect(() => invalidate(), [labels, invalidate]);
  useFrame(({ camera, size }) => {
    const taken: DOMRect[] = [];
    const words = layer.current?.children ?? [];
    labels.forEach((label, index) => {
      const word = words[index] as HTMLElement | undefined;
      if (!word) return;
      const seen = new Vector3(...label.at).project(camera);
      const [width, height] = [word.offsetWidth, word.offsetHeight];
      const x = Math.round(((seen.x + 1) / 2) * size.width - width / 2);
      const y = Math.round(((1 - seen.y) / 2) * size.height + (label.look === 'name' ? -height / 2 : 10));
      const place = new DOMRect(x, y, width, height);
      const covers = taken.some(
        (other) =>
          place.left < other.right &&
          place.right > other.left &&
          place.top < other.bottom &&
          place.bottom > other.top,
      );
      const outside = seen.z > 1 || x < -width || x > size.width;
      word.style.visibility = covers || outside ? 'hidden' : 'visible';
      word.style.transform = `translate(${x}px, ${y}px)`;
      if (!covers) taken.push(place);
    });
  });
  return null;
}
