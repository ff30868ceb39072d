import { Button, Link, Typography } from '@mui/material';
import type { TurnerWorkup, Workup } from '../api/generated/schema';
import { degrees, length, type Unit } from '../kit/bench';
import { Fold } from '../kit/Fold';
import { Row } from '../kit/Row';
import { BEATS, useBeat } from './useBeat';

interface Props {
  turner: TurnerWorkup;
  job: number;
  workup: Workup;
  unit: Unit;
}

/** Settings nearer than this, in degrees, are one template. */
const ALIKE = 0.06;

/** How fast the tube is turned under a torch that stands still, as a beat, and the pies that bring mitred seams square. */
export function Turner({ turner, job, workup, unit }: Props) {
  const beat = useBeat(turner.seconds);
  const settings = workup.cutting?.settings ?? [];
  const template = (saw: number) => settings.findIndex((one) => Math.abs(one - saw) < ALIKE) + 1;
  return (
    <Fold name='Turner' aside={`${turner.rpm.toFixed(2)} turns a minute`}>
      <Row name='One turn' aside={`${turner.rpm.toFixed(2)} turns a minute`}>
        {turner.seconds.toFixed(0)} s
      </Row>
      <Row name='Beat' aside={`one every ${(turner.seconds / BEATS).toFixed(1)} s, the first higher`}>
        <Button variant='outlined' aria-pressed={beat.on} onClick={beat.toggle}>
          {beat.on ? 'Stop it' : `Hear it, ${BEATS} to a turn`}
        </Button>
      </Row>
      {turner.pies.map((pie) => {
        const at = template(pie.saw);
        return (
          <Row
            key={`${pie.saw} ${pie.offset.mm}`}
            name='On the chuck'
            aside={
              <>
                {length(pie.offset, unit)} off it, {pie.seams} {pie.seams === 1 ? 'seam' : 'seams'}
                {at > 0 && (
                  <>
                    {', '}
                    <Link href={`/api/jobs/${job}/runs/${workup.run}/templates/${at}`}>template</Link>
                  </>
                )}
              </>
            }
          >
            a pie of {degrees(pie.saw, 2)}
          </Row>
        );
      })}
      {turner.pies.length > 0 && (
        <Typography variant='body2' color='textSecondary' sx={{ mb: 1 }}>
          A pie sawn at the seam’s angle, clamped on the chuck, brings a mitred seam square to the axis it
          turns about. The earth clamp goes on the part, never through the bearing.
        </Typography>
      )}
    </Fold>
  );
}
