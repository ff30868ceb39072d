import { Box, Button } from '@mui/material';
import { useState } from 'react';
import type { BayWorkup, Datum, DatumWorkup, JobState } from '../api/generated/schema';
import { figure, samePart, useBench } from '../kit/bench';
import { Choice } from '../kit/Choice';
import { LengthField } from '../kit/LengthField';
import type { Drawing } from '../kit/useDrawing';
import { token } from '../theme';
import { At, Found } from './Found';
import { InstrumentChecks } from './InstrumentChecks';
import { NameField } from './NameField';
import { options, sideNames } from './names';
import { PointFields } from './PointFields';
import { QuickReading } from './QuickReading';
import { Readings } from './Readings';
import { Tables } from './Tables';
import { ThingRow } from './ThingRow';

interface Props {
  state: JobState;
  bay: BayWorkup;
  drawing: Drawing;
}

/** Datum points: assumed, or measured from others. */
export function DatumStage({ state, bay, drawing }: Props) {
  const { selected, select, selectMade } = useBench();
  const [adding, setAdding] = useState(false);
  const chosen = bay.datums.find((datum) => samePart(selected, { part: 'datum', datum: datum.datum }));
  const kept = state.job.datums?.find((datum) => datum.id === chosen?.datum);

  async function add() {
    setAdding(true);
    const name = `datum ${bay.datums.length + 1}`;
    const made = await drawing.keep({
      step: 'measure',
      edit: 'add_datum',
      name,
      at: [0, 0, 0],
      rides: 'body',
    });
    if (made) selectMade(made);
    setAdding(false);
  }

  return (
    <>
      <Box
        role='group'
        aria-label='Datum points'
        sx={{ borderBottom: `1px solid ${token.hairline}`, mx: -1 }}
      >
        {bay.datums.map((datum) => (
          <Box key={datum.datum}>
            <ThingRow
              name={datum.name}
              aside={datum.found.place === 'readings' ? <GoodTo datum={datum} /> : <At at={datum.at} />}
              selected={datum === chosen}
              severity={worst(bay, datum)}
              onSelect={() => select({ part: 'datum', datum: datum.datum })}
            />
            {datum === chosen && kept && (
              <DatumDetail state={state} bay={bay} datum={datum} kept={kept} drawing={drawing} />
            )}
          </Box>
        ))}
      </Box>
      <Box sx={{ display: 'flex', gap: 1, mt: 1.25 }}>
        <Button variant='contained' disabled={adding} onClick={() => void add()}>
          Add a datum
        </Button>
        <Tables state={state} />
      </Box>
      <InstrumentChecks instruments={bay.instruments} drawing={drawing} />
    </>
  );
}

function worst(bay: BayWorkup, datum: DatumWorkup) {
  return bay.findings.find((finding) => samePart(finding.part, { part: 'datum', datum: datum.datum }))
    ?.severity;
}

function GoodTo({ datum }: { datum: DatumWorkup }) {
  const unit = useBench((bench) => bench.unit);
  return (
    <>
      <At at={datum.at} /> · ±{datum.found.good_to ? figure(datum.found.good_to, unit) : '?'}
    </>
  );
}

interface DetailProps extends Props {
  datum: DatumWorkup;
  kept: Datum;
}

const kinds = ['tape', 'up', 'forward', 'left'] as const;

function DatumDetail({ state, bay, datum, kept, drawing }: DetailProps) {
  const set = (change: Partial<Datum>) => {
    const { name, at, rides } = { ...kept, ...change };
    return drawing.keep({ step: 'measure', edit: 'set_datum', datum: kept.id, name, at, rides });
  };
  const of = { of: 'datum', datum: kept.id } as const;
  return (
    <Box sx={{ px: 1, pb: 1.25, borderLeft: `4px solid ${token.straw}`, bgcolor: token.paper }}>
      <Found found={datum.found} />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 112px', gap: 1, mt: 1 }}>
        <NameField label='Name of the datum' value={kept.name} onKeep={(name) => set({ name })} />
        <Choice
          label='Part of'
          width='100%'
          value={kept.rides}
          options={options(sideNames)}
          onChange={(rides) => void set({ rides })}
        />
      </Box>
      {datum.found.place !== 'readings' && (
        <Box sx={{ display: 'flex', gap: 1, mt: 1, alignItems: 'end' }}>
          <LengthField
            label='As typed, to within ±'
            width={150}
            value={datum.spread}
            onKeep={(spread) =>
              drawing.keep({ step: 'measure', edit: 'set_datum_spread', datum: kept.id, spread })
            }
          />
          {datum.spread_chosen ? (
            <Button
              variant='text'
              sx={{ p: 0, fontSize: 13 }}
              onClick={() =>
                void drawing.keep({ step: 'measure', edit: 'set_datum_spread', datum: kept.id, spread: null })
              }
            >
              Use the usual
            </Button>
          ) : (
            <Box sx={{ fontSize: 13, color: token.inkSoft, lineHeight: 1.2 }}>
              usual for a tape and a level
            </Box>
          )}
        </Box>
      )}
      <PointFields
        label={datum.found.place === 'readings' ? 'roughly' : 'of the datum'}
        at={kept.at}
        onKeep={(at) => set({ at })}
      />
      <QuickReading
        state={state}
        of={of}
        kinds={kinds}
        bay={bay}
        drawing={drawing}
        self={`datum ${kept.id}`}
        spots={undefined}
        suggested={datum.found.help?.taken}
      />
      <Readings of={of} readings={kept.readings ?? []} found={datum.found} drawing={drawing} />
      <Button
        variant='text'
        onClick={() => void drawing.keep({ step: 'measure', edit: 'remove_datum', datum: kept.id })}
        sx={{ p: 0, mt: 1, color: token.fouls }}
      >
        Remove this datum
      </Button>
    </Box>
  );
}
