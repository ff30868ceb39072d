import {
  Box,
  IconButton,
  MenuItem,
  Link as MuiLink,
  Select,
  ToggleButton,
  ToggleButtonGroup,
  Tooltip,
} from '@mui/material';
import { Link } from 'react-router';
import type { JobState } from '../api/generated/schema';
import { type Unit, useBench } from '../kit/bench';
import { ToPhone } from '../phone/ToPhone';
import { headingFont, token } from '../theme';
import { bayAt, rackAt, runAt, type Step, stepNames, steps } from './steps';

interface Props {
  state?: JobState;
  run?: number | undefined;
  /** What is open. */
  place?: 'rack' | 'stock' | 'log' | Step;
  onRun?: (run: number) => void;
  onNewRun?: () => void;
  onUndo?: () => void;
  onRedo?: () => void;
  onHelp?: () => void;
}

/** The slim head: job, run, steps, undo, units. */
export function Head({ state, run, place, onRun, onNewRun, onUndo, onRedo, onHelp }: Props) {
  const { unit, setUnit } = useBench();
  return (
    <Box
      component='header'
      sx={{
        display: 'flex',
        alignItems: 'stretch',
        height: 52,
        bgcolor: token.ink,
        color: token.sheet,
        pl: { xs: 1, sm: 2 },
        pr: { xs: 1, sm: 1.5 },
        gap: { xs: 1, sm: 2 },
      }}
    >
      <MuiLink
        component={Link}
        to='/'
        underline='none'
        color='inherit'
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: 1,
          fontFamily: headingFont,
          fontSize: 23,
          fontWeight: 600,
        }}
      >
        <img src='/mark.svg' width={30} height={30} alt={state ? 'All jobs' : ''} />
        <Box
          component='span'
          sx={{ display: { xs: state ? 'none' : 'inline', sm: 'inline' }, whiteSpace: 'nowrap' }}
        >
          Nook Bend
        </Box>
      </MuiLink>
      {state && (
        <Box
          sx={{
            // On a phone's rack there is no room for a name; the page says it.
            display: { xs: onRun ? 'flex' : 'none', sm: 'flex' },
            flexDirection: 'column',
            justifyContent: 'center',
            minWidth: 0,
          }}
        >
          <Box
            sx={{
              fontSize: onRun ? 12.5 : 15,
              fontWeight: onRun ? 400 : 700,
              color: onRun ? token.onInkSoft : token.sheet,
              lineHeight: 1.2,
              whiteSpace: 'nowrap',
              overflow: 'hidden',
              textOverflow: 'ellipsis',
            }}
          >
            {state.job.name}
          </Box>
          {onRun && state.job.runs.length > 0 && (
            <Select
              variant='standard'
              disableUnderline
              value={run ?? ''}
              displayEmpty
              renderValue={(value) =>
                state.job.runs.find((candidate) => candidate.id === value)?.name ?? 'No run yet'
              }
              onChange={(event) =>
                event.target.value === -1 ? onNewRun?.() : onRun?.(Number(event.target.value))
              }
              inputProps={{ 'aria-label': 'Run' }}
              SelectDisplayProps={{ 'aria-label': 'Run' }}
              sx={{
                color: token.sheet,
                fontWeight: 700,
                fontSize: 15,
                lineHeight: 1.2,
                '& .MuiSelect-icon': { color: token.sheet },
                '& .MuiSelect-select.MuiSelect-standard': { p: 0, pr: 3 },
              }}
            >
              {state.job.runs.map((candidate) => (
                <MenuItem key={candidate.id} value={candidate.id}>
                  {candidate.name}
                </MenuItem>
              ))}
              <MenuItem value={-1}>New run…</MenuItem>
            </Select>
          )}
        </Box>
      )}
      {state && place && (
        <Box component='nav' aria-label='Steps' sx={{ display: 'flex', ml: 'auto', alignItems: 'stretch' }}>
          <Tab to={rackAt(state.id)} number={0} name='Rack' on={place === 'rack'} />
          {(run === undefined ? (['measure'] as const) : steps).map((name, index) => (
            <Tab
              key={name}
              wideOnly={run !== undefined}
              to={run === undefined ? bayAt(state.id) : runAt(state.id, run, name)}
              number={index + 1}
              name={stepNames[name]}
              on={place === name}
            />
          ))}
        </Box>
      )}
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.25, ml: state && place ? 0 : 'auto' }}>
        {!onRun && <ToPhone />}
        {state && (
          <>
            <Tooltip describeChild title={state.undo ? `Undo: ${state.undo} (u)` : 'Undo (u)'}>
              <span>
                <IconButton aria-label='Undo' disabled={!state.can_undo} onClick={onUndo} sx={icon}>
                  <Arrow />
                </IconButton>
              </span>
            </Tooltip>
            <Tooltip describeChild title={state.redo ? `Redo: ${state.redo} (U)` : 'Redo (U)'}>
              <span>
                <IconButton aria-label='Redo' disabled={!state.can_redo} onClick={onRedo} sx={icon}>
                  <Arrow flipped />
                </IconButton>
              </span>
            </Tooltip>
          </>
        )}
        {onHelp && (
          <Tooltip describeChild title='Keys (?)'>
            <IconButton
              aria-label='Keys'
              onClick={onHelp}
              sx={{ ...icon, fontFamily: headingFont, fontSize: 20, fontWeight: 600 }}
            >
              ?
            </IconButton>
          </Tooltip>
        )}
        <ToggleButtonGroup
          exclusive
          size='small'
          value={unit}
          aria-label='Unit of length'
          onChange={(_, next: Unit | null) => next && setUnit(next)}
          sx={{ ml: 1 }}
        >
          {(['mm', 'in'] as const).map((name) => (
            <ToggleButton
              key={name}
              value={name}
              sx={{
                color: token.onInkSoft,
                borderColor: token.inkEdge,
                textTransform: 'none',
                fontSize: 14,
                px: 1.1,
                py: 0.25,
                '&.Mui-selected, &.Mui-selected:hover': { color: token.ink, bgcolor: token.straw },
              }}
            >
              {name}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
      </Box>
    </Box>
  );
}

interface TabProps {
  to: string;
  number: number;
  name: string;
  on: boolean;
  /** Whether it is left out where there is no room for what it opens. */
  wideOnly?: boolean;
}

function Tab({ to, number, name, on, wideOnly }: TabProps) {
  return (
    <MuiLink
      component={Link}
      to={to}
      aria-current={on ? 'step' : undefined}
      underline='none'
      sx={{
        display: { xs: wideOnly ? 'none' : 'flex', md: 'flex' },
        alignItems: 'center',
        gap: 0.75,
        px: { xs: 1, sm: 2 },
        fontFamily: headingFont,
        fontSize: 18,
        fontWeight: 600,
        color: on ? token.ink : token.onInk,
        bgcolor: on ? token.plate : 'transparent',
        borderTop: on ? `4px solid ${token.straw}` : '4px solid transparent',
      }}
    >
      <Box
        component='span'
        sx={{
          display: { xs: 'none', sm: 'inline' },
          fontSize: 13,
          color: on ? token.tightText : token.onInkFaint,
        }}
      >
        {number}
      </Box>
      {name}
    </MuiLink>
  );
}

const icon = { color: token.sheet, '&.Mui-disabled': { color: token.inkDisabled } };

function Arrow({ flipped }: { flipped?: boolean }) {
  return (
    <svg
      width={20}
      height={20}
      viewBox='0 0 20 20'
      aria-hidden='true'
      style={flipped ? { transform: 'scaleX(-1)' } : undefined}
    >
      <path d='M4 8h8a4 4 0 0 1 0 8H8M4 8l4-4M4 8l4 4' fill='none' stroke='currentColor' strokeWidth={2} />
    </svg>
  );
}
