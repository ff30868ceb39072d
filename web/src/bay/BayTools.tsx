import { Box, Button, Checkbox, FormControlLabel, Menu } from '@mui/material';
import { useState } from 'react';
import { type Layer, layerNames, useBench } from '../kit/bench';
import { headingFont, token } from '../theme';
import { type View, views } from './useViews';

interface Props {
  view: View;
  /** Nothing for fitting the pipe in as it is seen. */
  onView: (view: View | undefined) => void;
  /** Whether it was said how the engine moves. */
  rolls: boolean;
}

export const layerKeys: Record<Layer, string> = { engine: 'e', body: 'b', others: 'o', names: 'l' };
const layerWords: Record<Layer, string> = {
  engine: 'What rides on the engine',
  body: 'What stands on the body',
  others: 'The other runs',
  names: 'Names',
};

/** Which side the bay is looked at from, what is shown of it, and what can be asked of it. */
export function BayTools({ view, onView, rolls }: Props) {
  const { layers, toggleLayer, playing, setPlaying, between, setBetween, sight, select } = useBench();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const hidden = layerNames.filter((name) => !layers[name]).length;
  return (
    <Box sx={{ position: 'absolute', top: 12, right: 12, display: 'grid', gap: '2px', width: 84 }}>
      <Box role='group' aria-label='Views' sx={{ display: 'grid', gap: '2px' }}>
        {views.map((name) => (
          <Button
            key={name}
            onClick={() => onView(name)}
            aria-pressed={view === name}
            sx={tool(view === name)}
          >
            {name}
          </Button>
        ))}
        <Button onClick={() => onView(undefined)} title='The whole pipe in view (f)' sx={tool(false)}>
          Fit
        </Button>
      </Box>
      <Box role='group' aria-label='The bay' sx={{ display: 'grid', gap: '2px', mt: '6px' }}>
        <Button
          aria-haspopup='menu'
          aria-expanded={anchor !== null}
          onClick={(event) => setAnchor(event.currentTarget)}
          sx={tool(hidden > 0)}
        >
          Layers
        </Button>
        <Button
          aria-pressed={playing}
          disabled={!rolls}
          title={rolls ? 'Roll the engine to and fro (p)' : 'Say under Moves how the engine is mounted'}
          onClick={() => setPlaying(!playing)}
          sx={tool(playing)}
        >
          Roll
        </Button>
        <Button
          aria-pressed={between !== undefined}
          title='The distance between two things (d)'
          onClick={() => setBetween(between ? undefined : [])}
          sx={tool(between !== undefined)}
        >
          Distance
        </Button>
      </Box>
      {sight && (
        <Button
          onClick={() => select({ part: 'nothing' })}
          title='As it was seen before (Esc)'
          sx={{ ...tool(true), mt: '6px' }}
        >
          Back
        </Button>
      )}
      <Menu
        anchorEl={anchor}
        open={anchor !== null}
        onClose={() => setAnchor(null)}
        transitionDuration={0}
        anchorOrigin={{ vertical: 'top', horizontal: 'left' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
        slotProps={{ list: { role: 'group', 'aria-label': 'Layers', sx: { px: 2 } } }}
      >
        {layerNames.map((name) => (
          <Box key={name}>
            <FormControlLabel
              control={<Checkbox size='small' checked={layers[name]} onChange={() => toggleLayer(name)} />}
              label={`${layerWords[name]} (${layerKeys[name]})`}
            />
          </Box>
        ))}
      </Menu>
    </Box>
  );
}

const tool = (on: boolean) => ({
  minWidth: 52,
  fontFamily: headingFont,
  fontSize: 15,
  px: 1,
  py: 0.4,
  color: on ? token.ink : token.scribe,
  bgcolor: on ? token.plate : token.dyeDeep,
  '&:hover': { bgcolor: on ? token.plate : token.dyeHover },
  '&.Mui-disabled': { color: token.dyeLight },
});
