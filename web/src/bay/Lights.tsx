import { Environment, Lightformer } from '@react-three/drei';
import { memo } from 'react';
import { token } from '../theme';

/**
 * The light on the plate. Drawn anew only once: its reflections are made from what it holds, and making them takes longer
 * than a frame.
 */
export const Lights = memo(function Lights() {
  return (
    <>
      <ambientLight intensity={0.75} />
      <directionalLight position={[600, -800, 1500]} intensity={1.5} />
      <Environment resolution={64} frames={1}>
        <Lightformer form='rect' intensity={2.2} position={[0, 0, 6]} scale={[10, 10, 1]} />
        <Lightformer form='rect' intensity={1.2} position={[6, -5, 1]} scale={[8, 4, 1]} />
        <Lightformer
          form='rect'
          intensity={0.5}
          color={token.dyeLight}
          position={[-6, 5, -3]}
          scale={[10, 10, 1]}
        />
      </Environment>
    </>
  );
});
