import { Snackbar } from '@mui/material';
import { useState } from 'react';
import type { OthersNews } from '../api/useJobNews';

/** Says for a moment what on the screen has changed without one's own doing. */
export function ChangedElsewhere({ news }: { news: OthersNews }) {
  const [seen, setSeen] = useState(0);
  const what = news.what ? `Changed in another window: ${news.what}.` : 'Changed in another window.';
  return (
    <Snackbar
      open={news.times > seen}
      autoHideDuration={6000}
      onClose={() => setSeen(news.times)}
      anchorOrigin={{ vertical: 'top', horizontal: 'left' }}
      // Over the bay: the head and its steps stay free.
      sx={{ top: { xs: 64, sm: 64 } }}
      message={`${what} You see it as it is now.`}
      slotProps={{ content: { role: 'status' } }}
    />
  );
}
