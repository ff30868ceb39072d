import { Box, Link, Typography } from '@mui/material';
import type { Workup } from '../api/generated/schema';
import { figure, length, sentence, useBench } from '../kit/bench';
import { token } from '../theme';

/** What is cut for a pipe beside its tube: necks on the car, plates, tabs, and the legs of moulded elbows. */
export function BesideTube({ workup, base }: { workup: Workup; base: string }) {
  const unit = useBench((bench) => bench.unit);
  const necks = workup.ends.filter((end) => end.neck);
  const plates = [
    ...workup.ends.flatMap((end) =>
      end.figures?.plate ? [{ id: end.joint_id, name: end.name, plate: end.figures.plate, count: 1 }] : [],
    ),
    ...workup.joints.flatMap((joint) =>
      joint.figures.plate
        ? [{ id: joint.joint, name: joint.name, plate: joint.figures.plate, count: 2 }]
        : [],
    ),
  ].filter(({ plate }) => !plate.wrong);
  const tabs = workup.supports.flatMap((support) => (support.tab ? [{ ...support, tab: support.tab }] : []));
  const elbows = workup.joints.flatMap((joint) => (joint.elbow ? [{ ...joint, elbow: joint.elbow }] : []));
  const bought = workup.bends.flatMap((bend, index) => {
    const piece = workup.pieces.find((one) => one.elbow === bend.bend);
    return bend.bought && piece ? [{ index, piece, bought: bend.bought }] : [];
  });
  if (necks.length + plates.length + tabs.length + elbows.length + bought.length === 0) return null;
  return (
    <Box component='section' aria-label='Cut beside the tube' sx={{ mb: 1.25 }}>
      <Typography variant='h3'>Beside the tube</Typography>
      {necks.map((end) => (
        <Box key={end.end} sx={row}>
          <strong>On the car first: {end.name}.</strong>
          <Box component='ol' sx={{ m: 0, pl: 2.5 }}>
            {end.neck?.acts.map((act) => (
              <li key={act.mm}>{sentence(act, unit)}</li>
            ))}
          </Box>
          {end.neck?.mitre && <Sheet href={`${base}/ends/${end.end}/neck.svg`} />}
        </Box>
      ))}
      {bought.map(({ index, piece, bought }) => (
        <Box key={piece.name} sx={row}>
          <strong>
            {piece.name}, bend {index + 1}: elbow of {bought.angle}°
          </strong>
          , radius {length(bought.radius, unit)}
          <Box component='ol' sx={{ m: 0, pl: 2.5 }}>
            {bought.acts.map((act) => (
              <li key={act.mm}>{sentence(act, unit)}</li>
            ))}
          </Box>
        </Box>
      ))}
      {plates.map(({ id, name, plate, count }) => (
        <Box key={id} sx={row}>
          <strong>
            {count} flange {count === 1 ? 'plate' : 'plates'}, {name}:
          </strong>{' '}
          {plate.size.map((side) => figure(side, unit)).join(' × ')} {unit}, {length(plate.thickness, unit)}{' '}
          thick
          <Sheet href={`${base}/joints/${id}/plate.svg`} />
        </Box>
      ))}
      {tabs.map(({ support, name, tab }) => (
        <Box key={support} sx={row}>
          <strong>{name}:</strong> strip {length(tab.length, unit)} long, {figure(tab.width, unit)} ×{' '}
          {length(tab.thickness, unit)}
          <Sheet href={`${base}/supports/${support}/tab.svg`} />
        </Box>
      ))}
      {elbows.map(({ joint, name, elbow }) => (
        <Box key={joint} sx={row}>
          <strong>{name}:</strong> each leg cut square at {length(elbow.leg, unit)} from where its bend ends
        </Box>
      ))}
    </Box>
  );
}

const row = { py: 0.5, borderTop: `1px solid ${token.hairline}`, fontSize: 15, lineHeight: 1.4 };

function Sheet({ href }: { href: string }) {
  return (
    <>
      {' '}
      <Link href={href} sx={{ whiteSpace: 'nowrap', fontWeight: 600 }}>
        1:1 (SVG)
      </Link>
    </>
  );
}
