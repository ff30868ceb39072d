import { CanvasTexture, SRGBColorSpace } from 'three';
import { token } from '../theme';

const SIZE = 128;
const made = new Map<string, CanvasTexture>();

/** Stops from the lit middle to the rim of a ball of the stuff, as it is seen from the front. */
const stuffs = {
  bright: ['#ffffff', '#eef1f4', '#c2c9d1', '#8d97a3', '#59626e', '#9aa5b1'],
  dull: ['#c9c2f0', '#a9a1de', '#857cc6', '#6259a6', '#463d86', '#5f56a6'],
  body: ['#ffffff', '#f1f1f1', '#d4d4d4', '#adadad', '#868686', '#9a9a9a'],
  rubber: ['#5c5f6b', '#3c3e49', '#272932', '#1b1c22', '#131419', '#1f2028'],
} as const;
export type Stuff = keyof typeof stuffs;

/**
 * How a ball of a stuff looks under the light of the plate. Surfaces are shaded by looking their normals up in it: that
 * costs one look for each pixel, where lamps and reflections cost a software screen several frames.
 */
export function matcap(stuff: Stuff): CanvasTexture {
  const known = made.get(stuff);
  if (known) return known;
  const canvas = document.createElement('canvas');
  canvas.width = SIZE;
  canvas.height = SIZE;
  const pen = canvas.getContext('2d');
  if (pen) {
    // The light comes from above, a little from the left.
    const shade = pen.createRadialGradient(SIZE * 0.4, SIZE * 0.26, 2, SIZE * 0.5, SIZE * 0.5, SIZE * 0.58);
    stuffs[stuff].forEach((colour, index, all) => {
      shade.addColorStop(index / (all.length - 1), colour);
    });
    pen.fillStyle = token.dyeDeep;
    pen.fillRect(0, 0, SIZE, SIZE);
    pen.fillStyle = shade;
    pen.fillRect(0, 0, SIZE, SIZE);
  }
  const texture = new CanvasTexture(canvas);
  texture.colorSpace = SRGBColorSpace;
  made.set(stuff, texture);
  return texture;
}
