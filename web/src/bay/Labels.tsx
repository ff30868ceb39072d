import { useFrame, useThree } from '@react-three/fiber';
import { type RefObject, useEffect } from 'react';
import { Vector3 } from 'three';

export interface BayLabel {
  key: string;
  at: readonly [number, number, number];
  text: string;
  look: 'end' | 'lit' | 'name' | 'wrong' | 'fouls' | 'tight';
}

const classes: Record<BayLabel['look'], string> = {
  end: 'bay-label',
  lit: 'bay-label bay-label-lit',
  name: 'bay-name',
  wrong: 'bay-label bay-label-wrong',
  fouls: 'bay-label bay-label-fouls',
  tight: 'bay-label bay-label-tight',
};

/** A shape beside the colour. */
const marks: Partial<Record<BayLabel['look'], string>> = { fouls: '■ ', tight: '▲ ' };

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
          {marks[label.look]}
          {label.text}
        </div>
      ))}
    </div>
  );
}

/** Pixels between a place and its word. */
const OFF = 10;

/** Where a word can stand: a plain name on its thing, any other below its place, above it, or beside it. */
function placesAround(
  x: number,
  y: number,
  width: number,
  height: number,
  look: BayLabel['look'],
): DOMRect[] {
  const at = (left: number, top: number) => new DOMRect(Math.round(left), Math.round(top), width, height);
  if (look === 'name') return [at(x - width / 2, y - height / 2)];
  const below = at(x - width / 2, y + OFF);
  if (look === 'end') return [below];
  return [
    below,
    at(x - width / 2, y - OFF - height),
    at(x + OFF, y - height / 2),
    at(x - OFF - width, y - height / 2),
    at(x + OFF, y + OFF),
    at(x - OFF - width, y + OFF),
  ];
}

const overlap = (one: DOMRect, other: DOMRect) =>
  one.left < other.right && one.right > other.left && one.top < other.bottom && one.bottom > other.top;

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
      const [middle, level] = [((seen.x + 1) / 2) * size.width, ((1 - seen.y) / 2) * size.height];
      const places = placesAround(middle, level, width, height, label.look);
      const free = places.find((place) => taken.every((other) => !overlap(place, other)));
      const place = free ?? places[0];
      const outside = seen.z > 1 || !place || place.right < 0 || place.left > size.width;
      word.style.visibility = free && !outside ? 'visible' : 'hidden';
      if (place) word.style.transform = `translate(${place.left}px, ${place.top}px)`;
      if (free && !outside) taken.push(free);
    });
  });
  return null;
}
