import { Box, Button } from '@mui/material';
import { headingFont, token } from '../theme';
import { type View, views } from './useViews';

/** Which side the bay is looked at from; `onView` gets nothing for fitting the pipe in as it is seen. */
export function ViewButtons({ view, onView }: { view: View; onView: (view: View | undefined) => void }) {
  return (
    <Box
      sx={{ position: 'absolute', top: 12, right: 12, display: 'grid', gap: '2px' }}
      role='group'
      aria-label='Views'
    >
      {views.map((name) => (
        <Button
          key={name}
          onClick={() => onView(name)}
          aria-pressed={view === name}
          sx={viewButton(view === name)}
        >
          {name}
        </Button>
      ))}
      <Button onClick={() => onView(undefined)} sx={{ ...viewButton(false), mt: '6px' }}>
        Fit
      </Button>
    </Box>
  );
}

const viewButton = (on: boolean) => ({
  minWidth: 52,
  fontFamily: headingFont,
  fontSize: 15,
  px: 1,
  py: 0.5,
  color: on ? token.ink : token.scribe,
  bgcolor: on ? token.plate : token.dyeDeep,
  '&:hover': { bgcolor: on ? token.plate : token.dyeHover },
});
