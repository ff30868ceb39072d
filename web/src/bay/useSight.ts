import { useThree } from '@react-three/fiber';
import { useEffect, useRef } from 'react';
import {
  type Camera,
  type Intersection,
  type OrthographicCamera,
  type PerspectiveCamera,
  Raycaster,
  Sphere,
  Vector3,
} from 'three';
import type { BayWorkup, Workup } from '../api/generated/schema';
import { type Sight, same, samePart, useBench } from '../kit/bench';
import { across, middleOf } from './placing';
import { type Controls, lookAt } from './useViews';

type Triple = [number, number, number];

interface Place {
  at: Vector3;
  /** The way the gap runs, which is best seen from beside. */
  along: Vector3 | undefined;
  /** How much round it is to be seen, mm. */
  radius: number;
}

/** How many directions are tried. */
const TRIED = 60;
/** Further than this, mm, nothing that stands before the place is worth going round. */
const FAR = 1200;
/** As far from the place, mm, as the two things that meet there do not count as standing before it. */
const OFF = 35;

/** How far round the place, mm, it is looked whether something stands before it. */
const AROUND = 70;

/** Where a finding is. */
export function placeOf(
  { part, against }: Sight,
  workup: Workup | undefined,
  bay: BayWorkup | undefined,
): Place | undefined {
  const near = workup?.air?.things.find((thing) => against && same(thing.thing, against));
  if (near?.line) {
    const [from, to] = [new Vector3(...near.line.from), new Vector3(...near.line.to)];
    const along = to.clone().sub(from);
    const deep = along.length();
    return {
      at: from.lerp(to, 0.5),
      along: deep > 1 ? along.normalize() : undefined,
      radius: Math.max(150, 1.4 * deep),
    };
  }
  const at = pointOf(part, workup, bay);
  return at && { at: new Vector3(...at), along: undefined, radius: part.part === 'keep_out' ? 300 : 170 };
}

function pointOf(
  part: Sight['part'],
  workup: Workup | undefined,
  bay: BayWorkup | undefined,
): Triple | undefined {
  const mm = (point: readonly { mm: number }[] | undefined) => point?.map((c) => c.mm) as Triple | undefined;
  switch (part.part) {
    case 'end':
      return mm(workup?.ends.find(({ end }) => end === part.end)?.at);
    case 'bend':
      return mm(workup?.bends.find(({ bend }) => bend === part.bend)?.vertex);
    case 'keep_out': {
      const keepOut = bay?.keep_outs.find((one) => one.keep_out === part.keep_out);
      return keepOut && middleOf(keepOut);
    }
    case 'datum':
      return mm(bay?.datums.find((one) => one.datum === part.datum)?.at);
    case 'component':
      return mm(bay?.components.find((one) => one.component === part.component)?.at ?? undefined);
    case 'mount':
      return mm(
        bay?.components
          .find((one) => one.component === part.component)
          ?.placing.mounts.find((one) => one.mount === part.mount)?.at,
      );
    case 'opening':
      return mm(bay?.openings.find((one) => one.opening === part.opening)?.middle);
    case 'joint':
    case 'branch':
    case 'support': {
      const over = workup?.over.find((one) => samePart(one.of, part));
      return over && halfway(over);
    }
    case 'straight':
    case 'piece': {
      const solids = (workup?.pieces ?? []).flatMap((one) =>
        one.solids.filter((solid) =>
          part.part === 'piece' ? same(one.piece, part.piece) : samePart(solid.part, part),
        ),
      );
      const solid = solids[Math.floor((solids.length - 1) / 2)];
      return solid && halfway(solid);
    }
    case 'run':
      return undefined;
  }
}

const halfway = ({ from, to }: { from: Triple; to: Triple }) =>
  from.map((c, axis) => (c + (to[axis] ?? c)) / 2) as Triple;

/** Directions from the place to the eye, evenly over the half that is above. */
function directions(): Vector3[] {
  const golden = Math.PI * (3 - Math.sqrt(5));
  return Array.from({ length: TRIED }, (_, k) => {
    const z = 0.08 + (0.9 * (k + 0.5)) / TRIED;
    const out = Math.sqrt(1 - z * z);
    return new Vector3(Math.cos(golden * k) * out, Math.sin(golden * k) * out, z);
  });
}

/** How the view was before it was turned. */
interface Before {
  shown: number;
  camera: Camera;
  position: Vector3;
  target: Vector3;
  zoom: number;
}

/**
 * Turns and nears the view to what a finding is about, so that it is seen free; and back once it is no longer looked at.
 * `shown` counts how often the whole was brought into view, after which it is turned again.
 */
export function useSight(workup: Workup | undefined, bay: BayWorkup | undefined, shown: number) {
  const sight = useBench((bench) => bench.sight);
  const three = useThree();
  const before = useRef<Before>(undefined);
  const latest = useRef({ three, workup, bay });
  latest.current = { three, workup, bay };
  const ready = three.controls !== null && workup !== undefined && bay !== undefined;

  useEffect(() => {
    const { scene, camera: any, controls: orbit, size, invalidate } = latest.current.three;
    const camera = any as PerspectiveCamera | OrthographicCamera;
    const controls = orbit as unknown as Controls | null;
    if (!controls || !ready) return;
    if (!sight) {
      const back = before.current;
      before.current = undefined;
      // Another run or another view has a place of its own to be seen from.
      if (back?.camera !== camera || back.shown !== shown) return;
      camera.position.copy(back.position);
      camera.zoom = back.zoom;
      controls.target.copy(back.target);
      camera.updateProjectionMatrix();
      controls.update();
      invalidate();
      return;
    }
    const place = placeOf(sight, latest.current.workup, latest.current.bay);
    if (!place) return;
    if (before.current?.shown !== shown) before.current = undefined;
    before.current ??= {
      shown,
      camera,
      position: camera.position.clone(),
      target: controls.target.clone(),
      zoom: camera.zoom,
    };
    const now = camera.position.clone().sub(controls.target).normalize();
    const solid: Parameters<Raycaster['intersectObjects']>[0] = [];
    scene.traverse((object) => object.userData.blocks !== undefined && solid.push(object));
    const ray = new Raycaster();
    const freeFrom = (from: Vector3, way: Vector3) => {
      ray.set(from.addScaledVector(way, OFF), way);
      const [hit]: Intersection[] = ray.intersectObjects(solid, true);
      return Math.min(hit?.distance ?? FAR, FAR);
    };
    const score = (way: Vector3) => {
      // The place itself, and a little of what is round it.
      const [u, v] = across(way);
      const round = [u, v, u.clone().negate(), v.clone().negate()].map((side) =>
        freeFrom(place.at.clone().addScaledVector(side, AROUND), way),
      );
      const free = (2 * freeFrom(place.at.clone(), way) + round.reduce((sum, one) => sum + one, 0)) / 6;
      const beside = place.along ? 1 - Math.abs(place.along.dot(way)) : 0.5;
      return free + 500 * beside + 250 * way.dot(now);
    };
    const tried = directions().map((way) => ({ way, score: score(way) }));
    const best = tried.reduce((one, other) => (other.score > one.score ? other : one));
    lookAt(camera, controls, new Sphere(place.at, place.radius), best.way, size);
    invalidate();
  }, [sight, ready, shown]);
}
