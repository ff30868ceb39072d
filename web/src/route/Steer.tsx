import { Box, Button, Typography } from '@mui/material';
import type { AngleChoice, LegDirection, RouteConstraints, Workup } from '../api/generated/schema';
import { figure, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { Fold } from '../kit/Fold';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { Chip } from './WeightsPad';

const angleNames: readonly (readonly [AngleChoice, string])[] = [
  ['either', 'Any, and whole elbows'],
  ['free', 'Any angle'],
  ['whole_elbows', 'Only whole elbows'],
];
const bendNames = [
  ['5', 'Up to 5 bends'],
  ['4', 'Up to 4 bends'],
  ['3', 'Up to 3 bends'],
  ['2', 'Up to 2 bends'],
  ['1', 'One bend at most'],
] as const;
type Runs = Extract<LegDirection, { runs: 'level' | 'plumb' | 'lengthwise' | 'across' }>['runs'];
const legNames: readonly (readonly [Runs | 'free', string])[] = [
  ['free', 'Longest leg: any way'],
  ['level', 'Longest leg level'],
  ['plumb', 'Longest leg plumb'],
  ['lengthwise', 'Longest leg lengthwise'],
  ['across', 'Longest leg across'],
];

/** What the builder asks of a way, folded until it is wanted. */
export function Steer({ workup, drawing }: { workup: Workup; drawing: Drawing }) {
  const { unit, selected } = useBench();
  const wishes: RouteConstraints = workup.decisions.wishes ?? {};
  const asked = Object.keys(wishes).length;
  const ask = (change: Partial<RouteConstraints>) =>
    drawing.keep({ step: 'route', edit: 'set_wishes', run: workup.run, wishes: { ...wishes, ...change } });
  const vertex =
    selected.part === 'bend' ? workup.bends.find((one) => one.bend === selected.bend)?.vertex : undefined;
  const at = vertex?.map((c) => c.mm) as [number, number, number] | undefined;
  const longest = wishes.legs?.find((leg) => leg.near == null)?.way.runs ?? 'free';
  return (
    <Fold
      name='Steer'
      label='What is asked'
      aside={asked === 0 ? 'nothing asked' : `${asked} asked`}
      first={asked > 0}
    >
      <Box sx={{ display: 'grid', gap: 1.25, pt: 1, pb: 0.5, borderBottom: `1px solid ${token.hairline}` }}>
        <Box sx={{ display: 'flex', gap: 1 }}>
          <Choice
            label='Angles'
            value={wishes.angles ?? 'either'}
            options={angleNames}
            width='50%'
            onChange={(angles) => ask({ angles })}
          />
          <Choice
            label='Bends'
            value={String(wishes.most_bends ?? 5) as (typeof bendNames)[number][0]}
            options={bendNames}
            width='50%'
            onChange={(most) => ask({ most_bends: Number(most) })}
          />
        </Box>
        <Choice
          label='Longest leg'
          value={longest as Runs | 'free'}
          options={legNames}
          width='100%'
          onChange={(runs) => {
            const rest = (wishes.legs ?? []).filter((leg) => leg.near != null);
            return ask({ legs: runs === 'free' ? rest : [...rest, { way: { runs } }] });
          }}
        />
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: '4px' }}>
          <Chip on={wishes.tight_pies ?? false} onClick={() => ask({ tight_pies: !wishes.tight_pies })}>
            Tight pies too
          </Chip>
          <Chip
            on={wishes.turn_components ?? false}
            onClick={() => ask({ turn_components: !wishes.turn_components })}
          >
            Turn components too
          </Chip>
        </Box>
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.75, alignItems: 'center' }}>
          <Button
            variant='outlined'
            disabled={!at}
            onClick={() => at && ask({ pins: [...(wishes.pins ?? []), { at, within: 15 }] })}
          >
            Pass by the selected bend
          </Button>
          <Button
            variant='outlined'
            disabled={!at}
            onClick={() => at && ask({ bans: [...(wishes.bans ?? []), { at, radius: 60 }] })}
          >
            Not there
          </Button>
          {!at && (
            <Typography variant='body2' color='textSecondary'>
              Pick a bend to pin or ban its place.
            </Typography>
          )}
        </Box>
        {(wishes.pins ?? []).map((pin, index) => (
          <Place
            key={`pin ${pin.at.join()}`}
            text={`Pass within ${pin.within} mm of ${pin.at.map((c) => c.toFixed(0)).join(' / ')}`}
            onDrop={() => ask({ pins: wishes.pins?.filter((_, i) => i !== index) ?? [] })}
          />
        ))}
        {(wishes.bans ?? []).map((ban, index) => (
          <Place
            key={`ban ${ban.at.join()}`}
            text={`Keep ${ban.radius} mm off ${ban.at.map((c) => c.toFixed(0)).join(' / ')}`}
            onDrop={() => ask({ bans: wishes.bans?.filter((_, i) => i !== index) ?? [] })}
          />
        ))}
        {vertex && (
          <Typography variant='body2' color='textSecondary'>
            Selected: bend at {vertex.map((c) => figure(c, unit)).join(' / ')}
          </Typography>
        )}
      </Box>
    </Fold>
  );
}

function Place({ text, onDrop }: { text: string; onDrop: () => void }) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between', fontSize: 14 }}>
      {text}
      <Button variant='text' onClick={onDrop} sx={{ p: 0 }}>
        Let go
      </Button>
    </Box>
  );
}
