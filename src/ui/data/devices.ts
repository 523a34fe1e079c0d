import { useMutation, useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query';
import type { ActRequest, Failure } from '@/core/device/protocol';
import type { NewDevice, ShopDevice } from '@/core/shop/device';
import type { Sending, SendingNews, SendRequest } from '@/core/shop/sending';
import { api } from './api';
import { tell } from './notices';
import { keys } from './queries';
import { say } from '@/core/words/say';

/** The shop's devices, and how they stand. */
export const useDevices = () => useQuery({ queryKey: keys.devices, queryFn: api.devices });

/** What of a picture was sent, the newest first. */
export const useSendings = (pieceId: number) =>
  useQuery({ queryKey: keys.sendings(pieceId), queryFn: () => api.sendings(pieceId) });

/** What is done with devices; each answers with how all of them stand. */
export function useDeviceActs() {
  const client = useQueryClient();
  const done = {
    onSuccess: (devices: ShopDevice[]) => {
      client.setQueryData(keys.devices, devices);
      return client.invalidateQueries({ queryKey: keys.lists });
    },
    onError: (error: Error) => tell(error.message, 'trouble'),
  };
  const back = useMutation({ mutationFn: api.returnDevice, ...done });
  return {
    act: useMutation({
      mutationFn: ({ id, ...act }: ActRequest & { id: number }) => api.actAt(id, act),
      ...done,
    }),
    fail: useMutation({
      mutationFn: ({ id, failure }: Failure & { id: number }) => api.failAt(id, { failure }),
      ...done,
    }),
    add: useMutation({ mutationFn: (device: NewDevice) => api.addDevice(device), ...done }),
    remove: useMutation({
      mutationFn: ({ id }: { id: number; name: string }) => api.removeDevice(id),
      ...done,
      onSuccess: (devices: ShopDevice[], { id, name }) => {
        tell(say`${name} is off the list. What is on its way to it is seen to its end.`, 'good', {
          words: say`Put it back`,
          act: () => back.mutate(id),
        });
        return done.onSuccess(devices);
      },
    }),
  };
}

/** Sends the file of a run, and takes that back. */
export function useSend(jobId: number, pieceId: number) {
  const client = useQueryClient();
  const done = {
    onSuccess: async (sending: Sending) => {
      client.setQueryData<Sending[]>(keys.sendings(pieceId), (known = []) => [
        sending,
        ...known.filter(({ key }) => key !== sending.key),
      ]);
      await client.invalidateQueries({ queryKey: keys.job(jobId) });
    },
    onError: (error: Error) => tell(error.message, 'trouble'),
  };
  return {
    send: useMutation({
      mutationFn: ({ task, ...request }: SendRequest & { task: string }) => api.send(task, request),
      ...done,
    }),
    cancel: useMutation({ mutationFn: api.cancelSending, ...done }),
  };
}

/** Keeps what is told of a sending; where its state changed, what follows from that is asked for. */
export function hearOfSending(client: QueryClient, news: SendingNews): void {
  const key = keys.sendings(news.pieceId);
  const known = client.getQueryData<Sending[]>(key)?.find((one) => one.key === news.key);
  void client.invalidateQueries({ queryKey: key });
  if (known?.state === news.state) return;
  void client.invalidateQueries({ queryKey: keys.job(news.jobId) });
  void client.invalidateQueries({ queryKey: keys.jobs });
  if (!known) return;
  if (news.state === 'printed') tell(say`${known.fileName} is printed by ${known.device}.`, 'good');
  if (news.state === 'failed')
    tell(say`${known.fileName} could not be printed. Output says why.`, 'trouble');
}
