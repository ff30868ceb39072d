import { Box, Button, Typography } from '@mui/material';
import type { BayWorkup, JobState, Port, PortRef, PortWorkup, Workup } from '../api/generated/schema';
import { FreedomField } from '../boxes/FreedomField';
import { length, sentence, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { Findings } from '../kit/Findings';
import type { Drawing } from '../kit/useDrawing';
import { useLatest } from '../kit/useLatest';
import { token } from '../theme';
import { Found } from './Found';
import { NeckFields } from './NeckFields';
import { options, standingNames } from './names';
import { PortFields } from './PortFields';
import { QuickReading } from './QuickReading';
import { Readings } from './Readings';
import { StubChoice } from './StubChoice';
import { ThingRow } from './ThingRow';

interface Props {
  state: JobState;
  workup: Workup | undefined;
  bay: BayWorkup;
  drawing: Drawing;
  onNewRun: () => void;
  onPort: (port: PortRef) => void;
}

/** The ports of every run; those of the one on the bench can be opened. */
export function PortStage({ state, workup, bay, drawing, onNewRun, onPort }: Props) {
  const { selected, select } = useBench();
  const mine = bay.ports.filter((port) => port.port.run === workup?.run);
  const others = bay.ports.filter((port) => port.port.run !== workup?.run);
  const isOpen = (port: PortWorkup) => selected.part === 'end' && selected.end === port.port.end;
  const good = (port: PortWorkup) => <GoodTo port={port} />;
  return (
    <>
      <Box
        role='group'
        aria-label='Ports of this run'
        sx={{ mx: -1, borderBottom: `1px solid ${token.hairline}` }}
      >
        {mine.map((port) => (
          <Box key={port.port.end}>
            <ThingRow
              name={`${port.port.end.toUpperCase()} · ${port.name}`}
              aside={good(port)}
              selected={isOpen(port)}
              ghost={port.standing !== 'in_place'}
              severity={
                workup?.findings.find(
                  (one) =>
                    one.step === 'measure' && one.part.part === 'end' && one.part.end === port.port.end,
                )?.severity
              }
              onSelect={() => select({ part: 'end', ...port.port })}
            />
            {isOpen(port) && workup && (
              <PortDetail
                key={`${port.port.run} ${port.port.end}`}
                state={state}
                workup={workup}
                bay={bay}
                port={port}
                drawing={drawing}
              />
            )}
          </Box>
        ))}
      </Box>
      <Box sx={{ mt: 1.25 }}>
        <Findings
          findings={(workup?.findings ?? []).filter(
            (one) =>
              one.step === 'measure' &&
              one.part.part === 'end' &&
              !(selected.part === 'end' && selected.end === one.part.end),
          )}
          selected={selected}
          onMend={(edit) => void drawing.keep(edit)}
        />
      </Box>
      <Typography variant='h2' component='h3' sx={{ mt: 1.5, mb: 0.5 }}>
        Ports of other runs
      </Typography>
      <Box
        role='group'
        aria-label='Ports of other runs'
        sx={{ mx: -1, borderBottom: `1px solid ${token.hairline}` }}
      >
        {others.map((port) => (
          <ThingRow
            key={`${port.port.run} ${port.port.end}`}
            name={`${port.name}`}
            aside={
              <>
                {port.run_name} {port.port.end.toUpperCase()}
              </>
            }
            selected={false}
            ghost={port.standing !== 'in_place'}
            onSelect={() => onPort(port.port)}
          />
        ))}
      </Box>
      <Button variant='outlined' onClick={onNewRun} sx={{ mt: 1.5 }}>
        Add another run
      </Button>
    </>
  );
}

function GoodTo({ port }: { port: PortWorkup }) {
  const unit = useBench((bench) => bench.unit);
  const { place, good_to, other } = port.found;
  if (good_to) return <>within {length(good_to, unit)}</>;
  if (place === 'readings') return <>{other ? 'two answers fit' : 'readings disagree'}</>;
  return <>{place === 'open' ? 'not fixed' : 'as typed'}</>;
}

const kinds = [
  'tape',
  'up',
  'forward',
  'left',
  'heading',
  'pitch',
  'caliper',
  'girth',
  'bore',
  'angle',
  'square',
  'same',
  'opposite',
  'mirror',
] as const;

interface DetailProps {
  state: JobState;
  workup: Workup;
  bay: BayWorkup;
  port: PortWorkup;
  drawing: Drawing;
}

function PortDetail({ state, workup, bay, port, drawing }: DetailProps) {
  const { unit, selected } = useBench();
  const { end } = port.port;
  const kept: Port = end === 'a' ? workup.decisions.a : workup.decisions.b;
  const shown = workup.ends.find((one) => one.end === end);
  const change = useLatest(kept, (next) =>
    drawing.keep({ step: 'measure', edit: 'set_port', run: workup.run, end, port: next }),
  );
  const of = { of: 'port', port: port.port } as const;
  const component = bay.components.find((one) => one.component === port.component);
  // Moved with what it is on it does not stand where it was typed.
  const turned = component?.moved ?? false;
  const here = workup.findings.filter(
    (one) => one.step === 'measure' && one.part.part === 'end' && one.part.end === end,
  );
  const stub = <StubChoice state={state} bay={bay} run={workup.run} end={end} drawing={drawing} />;
  if (workup.decisions.stubs?.[end]) {
    return (
      <Box sx={{ px: 1, pb: 1.25, borderLeft: `4px solid ${token.straw}`, bgcolor: token.paper }}>
        <Typography variant='body2' sx={{ pt: 1 }}>
          It is the end of a stub, {length(port.od, unit)} outside, and goes wherever that goes. Nothing is
          measured of it.
        </Typography>
        {stub}
        <Findings findings={here} selected={selected} onMend={(edit) => void drawing.keep(edit)} />
      </Box>
    );
  }
  return (
    <Box sx={{ px: 1, pb: 1.25, borderLeft: `4px solid ${token.straw}`, bgcolor: token.paper }}>
      <Found found={port.found} />
      <Findings
        findings={here.filter((one) => one.severity !== 'info')}
        selected={selected}
        onMend={(edit) => void drawing.keep(edit)}
      />
      <QuickReading
        state={state}
        of={of}
        kinds={kinds}
        bay={bay}
        drawing={drawing}
        self={`port ${port.port.run} ${end}`}
        spots='mouth'
        suggested={port.found.help?.taken}
      />
      <Readings of={of} readings={kept.readings ?? []} found={port.found} drawing={drawing} />
      {(port.size.likely || port.travel) && (
        <Typography variant='body2' sx={{ mt: 1, lineHeight: 1.4 }}>
          {port.size.likely && sentence(port.size.likely, unit)}
          {port.size.bore && (
            <Box component='span' sx={{ display: 'block' }}>
              {sentence(port.size.bore, unit)}
            </Box>
          )}
          {port.size.beware && (
            <Box component='span' sx={{ display: 'block', color: token.inkSoft }}>
              {sentence(port.size.beware, unit)}
            </Box>
          )}
          {port.travel && <span>The mouth can move {length(port.travel, unit)} as the engine does.</span>}
        </Typography>
      )}
      <Findings
        findings={here.filter((one) => one.severity === 'info')}
        selected={selected}
        onMend={(edit) => void drawing.keep(edit)}
      />
      {component?.freedoms.map((freedom, index) => (
        <FreedomField
          // biome-ignore lint/suspicious/noArrayIndexKey: freedoms have no name but their place
          key={index}
          component={component}
          index={index}
          freedom={freedom}
          drawing={drawing}
        />
      ))}
      <Box sx={{ mt: 1 }}>
        <Choice
          label='When it was measured it was'
          width='100%'
          value={port.standing}
          options={options(standingNames)}
          onChange={(standing) => void drawing.keep({ step: 'measure', edit: 'set_standing', of, standing })}
        />
      </Box>
      {stub}
      {shown && (
        <PortFields
          letter={end.toUpperCase()}
          port={kept}
          measured={{
            place: turned || port.found.place === 'readings' || shown.neck != null,
            aim: turned || port.found.aim === 'readings' || kept.neck?.turned != null,
          }}
          at={shown.at}
          od={shown.port_od}
          out={{ heading: shown.heading, pitch: shown.pitch }}
          live={{ heading: shown.heading, pitch: shown.pitch, vector: shown.out }}
          onChange={change}
        />
      )}
      {shown && (
        <NeckFields
          letter={end.toUpperCase()}
          port={kept}
          shown={shown}
          template={`/api/jobs/${state.id}/runs/${workup.run}/ends/${end}/neck.svg`}
          onChange={change}
        />
      )}
    </Box>
  );
}
