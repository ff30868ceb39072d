import { Box, Button, Link } from '@mui/material';
import { useState } from 'react';
import type {
  BayWorkup,
  Bracket,
  ComponentWorkup,
  Holding,
  JobState,
  MountPoint,
  MountWorkup,
} from '../api/generated/schema';
import { figure, length, samePart, sentence, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import { SetOut } from '../kit/SetOut';
import type { Drawing } from '../kit/useDrawing';
import { NameField } from '../measure/NameField';
import { metalNames, options } from '../measure/names';
import { PointFields } from '../measure/PointFields';
import { ThingRow } from '../measure/ThingRow';
import { useMeasures } from '../measure/useMeasures';
import { token } from '../theme';
import { wayName, ways } from './ways';

interface Props {
  state: JobState;
  bay: BayWorkup;
  component: ComponentWorkup;
  drawing: Drawing;
}

type Triple = [number, number, number];

/** Where a component is held and by what, and whether that sways. */
export function MountList({ state, bay, component, drawing }: Props) {
  const { unit, selected, select } = useBench();
  const { mounts, sway } = component.placing;
  const at = (component.at?.map((c) => c.mm) ?? [0, 0, 0]) as Triple;
  const add = () =>
    drawing.keep({
      step: 'place',
      edit: 'add_mount',
      component: component.component,
      mount: { id: 0, name: `mount ${mounts.length + 1}`, at, out: [0, 0, -1], bolt: 8 },
    });
  return (
    <>
      {sway && <Box sx={{ fontSize: 14, lineHeight: 1.35, my: 0.75 }}>{sentence(sway.words, unit)}</Box>}
      <Box role='group' aria-label={`Mounts of ${component.name}`}>
        {mounts.map((mount) => {
          const part = { part: 'mount', component: component.component, mount: mount.mount } as const;
          const open = samePart(selected, part);
          return (
            <Box key={mount.mount}>
              <ThingRow
                name={mount.is.name}
                aside={aside(mount, mounts)}
                selected={open}
                severity={bay.findings.find((finding) => samePart(finding.part, part))?.severity}
                onSelect={() => select(open ? { part: 'component', component: component.component } : part)}
              />
              {open && (
                <MountDetail state={state} bay={bay} component={component} mount={mount} drawing={drawing} />
              )}
            </Box>
          );
        })}
      </Box>
      <Button variant='outlined' sx={{ mt: 1 }} onClick={() => void add()}>
        Add a mounting point
      </Button>
    </>
  );
}

function aside(mount: MountWorkup, all: MountWorkup[]): string {
  if (mount.problem) return 'no bracket fits';
  if (!mount.bracket) return mount.is.held ? 'bolted to the car' : 'not held yet';
  const like = all.find((one) => one.mount === mount.like);
  if (like) return `like ${like.is.name}`;
  return `${figure(mount.bracket.length, 'mm')} mm ${mount.bracket.angle ? 'angle' : 'strip'}`;
}

interface DetailProps {
  state: JobState;
  bay: BayWorkup;
  component: ComponentWorkup;
  mount: MountWorkup;
  drawing: Drawing;
}

const firstBracket = (mount: MountWorkup): Bracket => ({
  foot: {
    at: { is: 'drilled', at: mount.at.map((c, axis) => c.mm + (mount.out[axis] ?? 0) * 60) as Triple },
    out: [0, 0, 1],
    bolt: mount.is.bolt,
  },
  stock: { cut_from: 'strip', width: 30, thickness: 3, radius: 3 },
  material: 'mild_steel',
});

/** One mounting point: its hole, what holds it, and the bracket on paper. */
function MountDetail({ state, bay, component, mount, drawing }: DetailProps) {
  const unit = useBench((bench) => bench.unit);
  const { is, bracket } = mount;
  const [wider, setWider] = useState(false);
  const set = (part: Partial<MountPoint>) =>
    drawing.keep({
      step: 'place',
      edit: 'set_mount',
      component: component.component,
      mount: { ...is, ...part },
    });
  const hold = (held: Holding | null) => set({ held });
  const by = is.held?.by ?? 'nothing';
  const measure = useMeasures([Number(is.bolt), Number(is.boss ?? 0), Number(is.rubber?.height ?? 0)]);
  const grid = { display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1, mt: 1.25 };
  return (
    <Box sx={{ px: 1, pb: 1.25, borderLeft: `4px solid ${token.straw}`, bgcolor: token.paper }}>
      {mount.problem && (
        <Box role='alert' sx={{ fontSize: 14, color: token.fouls, pt: 0.75 }}>
          No bracket: {mount.problem}.
        </Box>
      )}
      {bracket && (
        <Box sx={{ pt: 0.75, fontSize: 14, lineHeight: 1.4 }}>
          <strong>
            {length(bracket.length, unit)} of {length(bracket.width, unit)} ×{' '}
            {length(bracket.thickness, unit)}
          </strong>
          {bracket.bends.length > 0 &&
            `, bent ${bracket.bends.map((bend) => `${Math.abs(bend.angle).toFixed(0)}° ${bend.angle > 0 ? 'up' : 'down'} at ${figure(bend.along, unit)}`).join(' and ')}`}
          ; holes at {bracket.holes.map((hole) => figure(hole.along, unit)).join(' and ')}.{' '}
          <Link
            href={`/api/jobs/${state.id}/components/${component.component}/mounts/${mount.mount}/bracket`}
            download
          >
            Draw it 1:1
          </Link>
        </Box>
      )}
      {mount.bolt && <Box sx={{ fontSize: 14, pt: 0.5 }}>{sentence(mount.bolt.words, unit)}</Box>}
      <Box sx={{ ...grid, gridTemplateColumns: '1.4fr 1fr' }}>
        <Choice<'nothing' | 'car' | 'bracket'>
          label='Held by'
          width='100%'
          value={by}
          options={[
            ['nothing', 'nothing yet'],
            ['bracket', 'a bracket'],
            ['car', 'the car itself'],
          ]}
          onChange={(next) =>
            void hold(
              next === 'nothing'
                ? null
                : next === 'car'
                  ? { by: 'car' }
                  : { by: 'bracket', bracket: firstBracket(mount) },
            )
          }
        />
        <Choice
          label='Rubber'
          width='100%'
          value={is.rubber ? 'yes' : 'no'}
          options={[
            ['no', 'rigid'],
            ['yes', 'in rubber'],
          ]}
          onChange={(next) =>
            void set({ rubber: next === 'yes' ? { diameter: 25, height: 20, hardness: 60 } : null })
          }
        />
      </Box>
      {is.held?.by === 'bracket' && (
        <BracketFields
          bay={bay}
          bracket={is.held.bracket}
          onKeep={(bracket) => hold({ by: 'bracket', bracket })}
        />
      )}
      <Button variant='text' sx={{ p: 0, mt: 1 }} aria-expanded={wider} onClick={() => setWider(!wider)}>
        {wider ? 'Its hole ▴' : 'Its hole ▾'}
      </Button>
      {wider && (
        <>
          <Box sx={{ mt: 1 }}>
            <NameField label='What it is called' value={is.name} onKeep={(name) => set({ name })} />
          </Box>
          <PointFields label='as measured' at={is.at as Triple} onKeep={(at) => set({ at })} />
          <Box sx={grid}>
            <Choice
              label='Bolt goes out'
              width='100%'
              value={wayName(is.out)}
              options={ways(is.out)}
              onChange={(out) => void set({ out: JSON.parse(out) as Triple })}
            />
            <LengthField
              label='Bolt'
              width='100%'
              value={measure(Number(is.bolt))}
              onKeep={(bolt) => set({ bolt })}
            />
            <LengthField
              label='Blind boss, deep'
              width='100%'
              value={measure(Number(is.boss ?? 0))}
              onKeep={(boss) => set({ boss: boss > 0 ? boss : null })}
            />
          </Box>
          <Button
            variant='text'
            sx={{ p: 0, mt: 1, color: token.fouls }}
            onClick={() =>
              void drawing.keep({
                step: 'place',
                edit: 'remove_mount',
                component: component.component,
                mount: mount.mount,
              })
            }
          >
            Remove it
          </Button>
        </>
      )}
      <SetOut
        part={{ part: 'mount', component: component.component, mount: mount.mount }}
        follows={state.revision}
      />
    </Box>
  );
}

function BracketFields({
  bay,
  bracket,
  onKeep,
}: {
  bay: BayWorkup;
  bracket: Bracket;
  onKeep: (bracket: Bracket) => Promise<unknown>;
}) {
  const { foot, stock } = bracket;
  const wide = Number(stock.cut_from === 'strip' ? stock.width : stock.leg);
  const measure = useMeasures([
    wide,
    Number(stock.thickness),
    Number(stock.cut_from === 'strip' ? stock.radius : 0),
  ]);
  const put = (part: Partial<Bracket>) => onKeep({ ...bracket, ...part });
  const at = foot.at.is === 'drilled' ? (foot.at.at as Triple) : undefined;
  const [one, two] = bracket.second_bolt ?? [false, false];
  return (
    <>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1, mt: 1.25 }}>
        <Choice<'strip' | 'angle'>
          label='Cut from'
          width='100%'
          value={stock.cut_from}
          options={[
            ['strip', 'strip, bent'],
            ['angle', 'angle'],
          ]}
          onChange={(cut) =>
            void put({
              stock:
                cut === 'strip'
                  ? { cut_from: 'strip', width: wide, thickness: stock.thickness, radius: stock.thickness }
                  : { cut_from: 'angle', leg: wide, thickness: stock.thickness },
            })
          }
        />
        <LengthField
          label={stock.cut_from === 'strip' ? 'Width' : 'Leg'}
          width='100%'
          value={measure(wide)}
          onKeep={(mm) =>
            put({ stock: stock.cut_from === 'strip' ? { ...stock, width: mm } : { ...stock, leg: mm } })
          }
        />
        <LengthField
          label='Thickness'
          width='100%'
          value={measure(Number(stock.thickness))}
          onKeep={(thickness) => put({ stock: { ...stock, thickness } })}
        />
        <Choice
          label='Of'
          width='100%'
          value={bracket.material}
          options={options(metalNames)}
          onChange={(material) => void put({ material })}
        />
        <Choice
          label='Bolts'
          width='100%'
          value={one && two ? 'both' : one || two ? 'one' : 'single'}
          options={[
            ['single', 'one each end'],
            ['one', one ? 'two at its end' : 'two at the car'],
            ['both', 'two each end'],
          ]}
          onChange={(bolts) =>
            void put({
              second_bolt: bolts === 'both' ? [true, true] : bolts === 'one' ? [false, true] : [false, false],
            })
          }
        />
        <Choice
          label='Car’s bolt goes out'
          width='100%'
          value={wayName(foot.out)}
          options={ways(foot.out)}
          onChange={(out) => void put({ foot: { ...foot, out: JSON.parse(out) as Triple } })}
        />
      </Box>
      <Box sx={{ mt: 1.25 }}>
        <Choice
          label='Hole in the car'
          width='100%'
          value={foot.at.is === 'datum' ? String(foot.at.datum) : ''}
          options={[
            ['', 'to be drilled'],
            ...bay.datums.map((datum) => [String(datum.datum), datum.name] as const),
          ]}
          onChange={(next) => {
            const datum = bay.datums.find((one) => String(one.datum) === next);
            const there = bay.datums.find((one) => foot.at.is === 'datum' && one.datum === foot.at.datum);
            const drilled = (there?.at.map((c) => c.mm) ?? at ?? [0, 0, 0]) as Triple;
            void put({
              foot: {
                ...foot,
                at: datum ? { is: 'datum', datum: datum.datum } : { is: 'drilled', at: drilled },
              },
            });
          }}
        />
      </Box>
      {at && (
        <PointFields
          label='hole in the car'
          at={at}
          onKeep={(next) => put({ foot: { ...foot, at: { is: 'drilled', at: next } } })}
        />
      )}
    </>
  );
}
