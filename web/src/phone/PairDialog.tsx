import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material';
import { QRCodeSVG } from 'qrcode.react';
import { useEffect, useRef } from 'react';
import { words } from '../api/client';
import type { Device, WayIn } from '../api/generated/schema';
import { NotDone } from '../kit/NotDone';
import { headingFont, token } from '../theme';
import { usePairing } from './usePairing';

/** Lets a phone in: what it has to open and to be told, and which devices are in already. */
export function PairDialog({ onClose }: { onClose: () => void }) {
  const { now, newCode, takeBack, end } = usePairing();
  const wayIn = now.data?.way_in;
  const open = wayIn !== null && wayIn !== undefined;
  const asked = useRef(false);
  // Who opens this wants a code; it is good only as long as somebody looks at it.
  const { mutate: ask } = newCode;
  const { mutate: drop } = takeBack;
  useEffect(() => {
    if (open && !asked.current) {
      asked.current = true;
      ask();
    }
  }, [open, ask]);
  const close = () => {
    drop();
    onClose();
  };
  const devices = now.data?.devices ?? [];
  const problem = newCode.error ?? end.error ?? now.error;
  return (
    <Dialog open onClose={close} maxWidth='md' fullWidth>
      <DialogTitle>To the phone</DialogTitle>
      <DialogContent>
        {problem && (
          <NotDone
            problem={words(problem)}
            onUnderstood={() => {
              newCode.reset();
              end.reset();
            }}
          />
        )}
        {now.data && !wayIn && <HowToOpen />}
        {wayIn && <Code wayIn={wayIn} asking={newCode.isPending} onNew={() => newCode.mutate()} />}
        {now.data && <Devices devices={devices} onEnd={(id) => end.mutate(id)} />}
      </DialogContent>
      <DialogActions>
        <Button onClick={close}>Close</Button>
      </DialogActions>
    </Dialog>
  );
}

function HowToOpen() {
  return (
    <>
      <Typography sx={{ mb: 1.5 }}>
        Bench cards and the rack open on a phone in the garage too. This server was started for this computer
        alone; start it with the computer’s own address on your network:
      </Typography>
      <Box
        component='code'
        sx={{ display: 'block', p: 1.5, mb: 2, bgcolor: token.plate, border: `1px solid ${token.hairline}` }}
      >
        nook-bend serve --host 192.168.1.20
      </Box>
    </>
  );
}

function Code({ wayIn, asking, onNew }: { wayIn: WayIn; asking: boolean; onNew: () => void }) {
  const { code } = wayIn;
  const minutes = Math.ceil((code?.seconds ?? 0) / 60);
  return (
    <Box sx={{ display: 'flex', gap: 3, alignItems: 'flex-start', mb: 2 }}>
      <Box
        sx={{
          width: 232,
          height: 232,
          flexShrink: 0,
          p: 1,
          bgcolor: '#fff',
          border: `1px solid ${token.hairline}`,
        }}
      >
        {code && (
          <QRCodeSVG
            value={code.link}
            size={214}
            fgColor={token.ink}
            title='The pairing page with its code, to be scanned'
            role='img'
          />
        )}
      </Box>
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Typography sx={{ mb: 0.5 }}>
          With the phone on the same network, scan this, or open
          <Box component='span' sx={{ fontWeight: 700, userSelect: 'all', ml: 0.75 }}>
            {wayIn.address}
          </Box>
        </Typography>
        {code ? (
          <>
            <Typography sx={{ color: token.inkSoft }}>and type this code</Typography>
            <Box
              role='status'
              aria-label='Pairing code'
              sx={{
                fontFamily: headingFont,
                fontWeight: 600,
                fontSize: 60,
                lineHeight: 1.1,
                letterSpacing: '0.04em',
              }}
            >
              {code.digits.slice(0, 4)} {code.digits.slice(4)}
            </Box>
            <Typography sx={{ color: token.inkSoft, mb: 1 }}>
              For one device, within {minutes === 1 ? 'a minute' : `${minutes} minutes`}.
            </Typography>
          </>
        ) : (
          <Typography role='status' sx={{ my: 1.5 }}>
            {wayIn.void
              ? 'Wrong codes were tried too often, so that code is void.'
              : 'No code is out: it was used, or is older than ten minutes.'}
          </Typography>
        )}
        <Button variant='outlined' disabled={asking} onClick={onNew} sx={{ mb: 2 }}>
          New code
        </Button>
        <Typography variant='body2' sx={{ color: token.inkSoft }}>
          The phone’s browser will warn that it does not know this computer’s certificate. Its SHA-256
          fingerprint must be
        </Typography>
        <Typography
          variant='body2'
          sx={{ fontVariantNumeric: 'tabular-nums', overflowWrap: 'anywhere', userSelect: 'all' }}
        >
          {wayIn.fingerprint}
        </Typography>
      </Box>
    </Box>
  );
}

function Devices({ devices, onEnd }: { devices: readonly Device[]; onEnd: (id: number) => void }) {
  return (
    <Box component='section' aria-label='Paired devices'>
      <Typography variant='h2' sx={{ borderTop: `1px solid ${token.hairline}`, pt: 1.5 }}>
        Paired devices
      </Typography>
      {devices.length === 0 && <Typography sx={{ color: token.inkSoft }}>None yet.</Typography>}
      <Box component='ul' sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {devices.map((device) => (
          <Box
            component='li'
            key={device.id}
            sx={{
              display: 'flex',
              alignItems: 'center',
              gap: 2,
              borderBottom: `1px solid ${token.hairline}`,
              py: 0.5,
            }}
          >
            <Box sx={{ fontWeight: 700, minWidth: 140, overflowWrap: 'anywhere' }}>{device.name}</Box>
            <Box sx={{ flex: 1, color: token.inkSoft }}>
              paired {new Date(device.paired).toLocaleString()}, last here{' '}
              {new Date(device.seen).toLocaleString()} from {device.peer}
            </Box>
            <Button
              color='error'
              aria-label={`End ${device.name}’s session`}
              onClick={() => onEnd(device.id)}
            >
              End
            </Button>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
