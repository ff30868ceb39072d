import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { answered, server } from '../api/client';
import type { Pairing } from '../api/generated/schema';

const pairingKey = ['pairing'];

/** How often the computer looks whether a device came, in ms. */
const LOOK = 2000;

/** Who this browser is: the computer itself, or a paired device. */
export function useAsker() {
  return useQuery({
    queryKey: ['session'],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => answered(server.GET('/api/session')),
  });
}

/** The way in, the code that is out and the paired devices, and what is done about them. */
export function usePairing() {
  const cache = useQueryClient();
  const now = useQuery({
    queryKey: pairingKey,
    queryFn: () => answered(server.GET('/api/pairing')),
    refetchInterval: LOOK,
  });
  const newCode = useMutation({
    mutationFn: () => answered(server.POST('/api/pairing/code')),
    onSuccess: (pairing: Pairing) => cache.setQueryData(pairingKey, pairing),
  });
  const takeBack = useMutation({ mutationFn: () => answered(server.DELETE('/api/pairing/code')) });
  const end = useMutation({
    mutationFn: (id: number) => answered(server.DELETE('/api/devices/{id}', { params: { path: { id } } })),
    onSettled: () => cache.invalidateQueries({ queryKey: pairingKey }),
  });
  return { now, newCode, takeBack, end };
}
