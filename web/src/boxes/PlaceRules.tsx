import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import type {
  BayWorkup,
  BoxFace,
  ComponentWorkup,
  FindingKind,
  PlacingWishes,
} from '../api/generated/schema';
import { degrees, length, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { NumberField } from '../kit/NumberField';
import type { Drawing } from '../kit/useDrawing';
import { useMeasures } from '../measure/useMeasures';
import { token } from '../theme';
import { changing } from './useComponent';

interface Props {
  bay: BayWorkup;
  component: ComponentWorkup;
  drawing: Drawing;
}

const faces: [BoxFace, string][] = [
  ['front', 'front'],
  ['back', 'back'],
  ['left', 'left side'],
  ['right', 'right side'],
  ['top', 'top'],
  ['bottom', 'underside'],
];

/** What a component's place is judged by, each figure beside what is wished of it. */
export function PlaceRules({ bay, component, drawing }: Props) {
  const unit = useBench((bench) => bench.unit);
  const change = changing(drawing, component);
  const { placing, wishes, breathing } = component;
  const measure = useMeasures([
    Number(wishes.centred ?? 0),
    Number(wishes.duct ?? 0),
    Number(wishes.hand?.depth ?? 60),
  ]);
  const wish = (part: Partial<PlacingWishes>) => change({ set: 'wishes', wishes: { ...wishes, ...part } });
  const body = component.body.find((id) =>
    bay.keep_outs.some((one) => one.keep_out === id && one.shape.shape === 'box'),
  );
  const { shown, ground, core, hand, level } = placing;
  // What is broken is the core's to say.
  const broken = (kind: FindingKind) =>
    bay.findings.find(
      (finding) =>
        finding.kind === kind &&
        finding.part.part === 'component' &&
        finding.part.component === component.component,
    );
  const scrapes = broken('scrapes');
  return (
    <Box sx={{ fontSize: 14 }}>
      {body !== undefined && (
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1.4fr', gap: 1, my: 1 }}>
          <Choice<BoxFace | 'none'>
            label='Breathes by its'
            width='100%'
            value={breathing?.face ?? 'none'}
            options={[['none', 'nothing'], ...faces]}
            onChange={(face) =>
              void change({
                set: 'breathing',
                breathing: face === 'none' ? null : { body, ...breathing, face },
              })
            }
          />
          {breathing && (
            <Choice
              label='Through'
              width='100%'
              value={String(breathing.through ?? '')}
              options={[
                ['', 'nobody said'],
                ...bay.openings.map((one) => [String(one.opening), one.name] as const),
              ]}
              onChange={(through) =>
                void change({
                  set: 'breathing',
                  breathing: { ...breathing, through: through === '' ? null : Number(through) },
                })
              }
            />
          )}
        </Box>
      )}
      {shown && (
        <Line
          name='Face shown'
          bad={broken('face_hidden') !== undefined}
          wish={
            <NumberField
              label='Least share of the face shown'
              hideLabel
              unit='%'
              digits={0}
              width={86}
              value={(wishes.share ?? 0) * 100}
              onKeep={(share) => wish({ share: share > 0 ? share / 100 : null })}
            />
          }
        >
          {(shown.share * 100).toFixed(0)} %
        </Line>
      )}
      {shown && (
        <Line
          name={shown.aside.mm >= 0 ? 'Left of the middle' : 'Right of the middle'}
          bad={broken('off_centre') !== undefined}
          wish={
            <LengthField
              label='Most beside the middle'
              hideLabel
              width={86}
              value={measure(Number(wishes.centred ?? 0))}
              onKeep={(centred) => wish({ centred: centred > 0 ? centred : null })}
            />
          }
        >
          {length(shown.aside, unit).replace('-', '')}
        </Line>
      )}
      {level != null && (
        <Line
          name='Out of level'
          bad={broken('not_level') !== undefined}
          wish={
            <NumberField
              label='Most out of level'
              hideLabel
              unit='°'
              width={86}
              value={wishes.level ?? 0}
              onKeep={(most) => wish({ level: most > 0 ? most : null })}
            />
          }
        >
          {degrees(Math.abs(level))}
        </Line>
      )}
      {core && (
        <Line
          name={`Behind the ${core.name}`}
          bad={broken('air_goes_round') !== undefined}
          wish={
            <LengthField
              label='Most behind the core ahead'
              hideLabel
              width={86}
              value={measure(Number(wishes.duct ?? 0))}
              onKeep={(duct) => wish({ duct: duct > 0 ? duct : null })}
            />
          }
        >
          {length(core.gap, unit)}
        </Line>
      )}
      {body !== undefined && (
        <Line
          name={
            <Choice<BoxFace | 'none'>
              label='Room for a hand at its'
              width='100%'
              value={wishes.hand?.face ?? 'none'}
              options={[['none', 'not asked'], ...faces]}
              onChange={(face) =>
                void wish({ hand: face === 'none' ? null : { body, ...wishes.hand, face } })
              }
            />
          }
          bad={broken('no_hand_room') !== undefined}
          wish={
            wishes.hand ? (
              <LengthField
                label='Room for a hand'
                hideLabel
                width={86}
                value={hand?.wanted ?? measure(Number(wishes.hand.depth ?? 60))}
                onKeep={(depth) => wish({ hand: wishes.hand ? { ...wishes.hand, depth } : null })}
              />
            ) : undefined
          }
        >
          {hand && (hand.by == null ? 'free' : length(hand.free, unit))}
        </Line>
      )}
      {ground && (
        <Line name='Over the ground, full bump' bad={scrapes?.limit != null && scrapes.limit > 0}>
          {length(ground.flat, unit)}
        </Line>
      )}
      {ground && (
        <Line name='Clears a ramp of' bad={scrapes?.limit === 0}>
          {degrees(ground.steepest)}
        </Line>
      )}
    </Box>
  );
}

/** One rule: what it is, how it stands, and what is wished. */
function Line({
  name,
  bad,
  wish,
  children,
}: {
  name: ReactNode;
  bad: boolean;
  wish?: ReactNode;
  children: ReactNode;
}) {
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: '1fr auto 96px',
        gap: 1.25,
        alignItems: 'center',
        minHeight: 38,
        py: 0.25,
        borderTop: `1px solid ${token.hairline}`,
      }}
    >
      <Box>{name}</Box>
      <Box
        sx={{ fontSize: 18, fontWeight: 700, whiteSpace: 'nowrap', color: bad ? token.tightText : token.ink }}
      >
        {bad && '▲ '}
        {children}
      </Box>
      <Box sx={{ textAlign: 'right' }}>{wish}</Box>
    </Box>
  );
}
