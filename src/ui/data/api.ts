import { z } from 'zod';
import { PictureOfJob } from '@/core/shop/picture-of-job';
import { Applied, type ApplyRequest } from '@/core/house/applying';
import {
  HouseRecipe,
  ListedHouse,
  PastHouse,
  type HouseChange,
  type HouseDraft,
} from '@/core/house/house-recipe';
import {
  BatchHead,
  ItemsNews,
  ItemsOutcome,
  type BatchChange,
  type ItemsAct,
  type ItemsKnown,
  type NewBatch,
  type NewItems,
} from '@/core/batch/batch';
import { KnownProfile } from '@/core/colour/profiles';
import { JpegCost } from '@/core/evidence/jpeg-cost';
import type { Output } from '@/core/output/output';
import { ShopState } from '@/core/shop/audit';
import type { Region, Size } from '@/core/raster/region';
import { Stop } from '@/core/stops/stop';
import { Brought, Comparing, Mark, Sweep, type NewMark } from '@/core/shop/comparing';
import type { ApprovalRequest, Withdrawal } from '@/core/shop/event';
import { BoardPage, type BoardOrder, type DueFilter } from '@/core/shop/board';
import { JobsOutcome, type JobsAct } from '@/core/shop/jobs-act';
import { JobView, Piece, TakenIn, TakenOutPicture } from '@/core/shop/job';
import type { OrderAgain } from '@/core/shop/order-again';
import type { ProofRequest } from '@/core/shop/proof';
import type { SheetRequest } from '@/core/shop/sheet';
import { ProofTask, Run, SheetTask, Task, type Artifact } from '@/core/shop/task';
import { Maps } from '@/core/inspect/findings';
import type {
  JobChange,
  JobState,
  NewJob,
  NewPicture,
  NewPieces,
  PieceChange,
  PieceMove,
  RunRequest,
} from '@/core/shop/job';
import { UsableModels } from '@/core/learned/models';
import type { Painted } from '@/core/zone/zone';
import { NamedFolders } from '@/core/shop/folders';
import { Backups, type BackupRequest } from '@/core/shop/backups';
import { Storage } from '@/core/shop/storage';
import { PastChange, ShopSettings, type SettingsChange } from '@/core/shop/settings';
import { Throughput } from '@/core/render/throughput';
import { Lists } from '@/core/shop/lists';
import type { ActRequest, Failure } from '@/core/device/protocol';
import { ShopDevice, type NewDevice } from '@/core/shop/device';
import { Sending, type SendRequest } from '@/core/shop/sending';
import { say } from '@/core/words/say';

/** Trouble that the server put into words. */
export class ServerProblem extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly facts?: unknown,
  ) {
    super(message);
  }
}

const Trouble = z.object({ message: z.string(), facts: z.unknown().optional() });
const UNREACHABLE = say`The shop does not answer just now. What you see is kept; it is looked for again by itself.`;

async function call<T>(
  schema: z.ZodType<T>,
  path: string,
  method = 'GET',
  body?: unknown,
  more?: Pick<RequestInit, 'keepalive'>,
): Promise<T> {
  const response = await fetch(path, {
    ...{ method, ...more },
    ...(body === undefined
      ? {}
      : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
  }).catch(() => {
    throw new ServerProblem(UNREACHABLE, 0);
  });
  const answer: unknown = await response.json().catch(() => null);
  if (response.ok) return schema.parse(answer);
  throw problemFrom(answer, response.status);
}

function problemFrom(answer: unknown, status: number): ServerProblem {
  const trouble = Trouble.safeParse(answer);
  return trouble.success
    ? new ServerProblem(trouble.data.message, status, trouble.data.facts)
    : new ServerProblem(UNREACHABLE, status);
}

const ofPiece = (piece?: number): string => (piece ? `?piece=${piece}` : '');

const maskAddress = ({ digest, width, height }: Painted): string =>
  `/api/masks/${digest}?width=${width}&height=${height}`;

type JpegHow = Pick<Output, 'sampling' | 'progressive'>;

const jpegCostAddress = ({ width, height }: Size, { sampling, progressive }: JpegHow): string =>
  `/api/jpeg-cost?${new URLSearchParams({ width: `${width}`, height: `${height}`, sampling, progressive: `${progressive}` })}`;

/** A call whose body or answer is bytes. */
async function callBytes(path: string, init?: RequestInit): Promise<Uint8Array<ArrayBuffer>> {
  const response = await fetch(path, init).catch(() => {
    throw new ServerProblem(UNREACHABLE, 0);
  });
  if (!response.ok) {
    const answer: unknown = await response.json().catch(() => null);
    throw problemFrom(answer, response.status);
  }
  return new Uint8Array(await response.arrayBuffer());
}

/** Bytes as gzip. */
export async function gzipped(bytes: Uint8Array<ArrayBuffer>): Promise<Uint8Array<ArrayBuffer>> {
  const packed = new Blob([bytes]).stream().pipeThrough(new CompressionStream('gzip'));
  return new Uint8Array(await new Response(packed).arrayBuffer());
}

/** Which rows of the board are shown, and in what order. */
export interface Board {
  archived: boolean;
  state: JobState | null;
  search: string;
  customer: string | null;
  material: string | null;
  due: DueFilter | null;
  order: BoardOrder;
  down: boolean;
}

const flag = (on: boolean): string => (on ? '1' : '0');

function boardWords(board: Board, page: number): string {
  const { archived, search, order, down, state, customer, material, due } = board;
  const chosen = Object.entries({ state, customer, material, due }).flatMap(([name, value]) =>
    value === null ? [] : [[name, value] as const],
  );
  return new URLSearchParams({
    ...{ archived: flag(archived), search, order, down: flag(down), page: String(page) },
    ...Object.fromEntries(chosen),
  }).toString();
}

export const api = {
  /** bytes of what was painted on a zone */
  mask: (painted: Painted) => callBytes(maskAddress(painted)),
  keepMask: async (painted: Painted, bytes: Uint8Array<ArrayBuffer>) => {
    await callBytes(maskAddress(painted), { method: 'PUT', body: await gzipped(bytes) });
  },
  actOnJobs: (act: JobsAct) => call(JobsOutcome, '/api/jobs/acts', 'POST', act),
  picturesOf: (jobs: readonly number[]) =>
    call(z.array(PictureOfJob), `/api/jobs/pictures?jobs=${jobs.join()}`),
  jobsOf: (board: Board) => call(z.array(z.int()), `/api/jobs/numbers?${boardWords(board, 0)}`),
  board: (board: Board, page: number) => call(BoardPage, `/api/jobs?${boardWords(board, page)}`),
  job: (id: number, piece?: number) => call(JobView, `/api/jobs/${id}${ofPiece(piece)}`),
  models: () => call(UsableModels, '/api/models'),
  throughput: () => call(Throughput, '/api/throughput'),
  lists: () => call(Lists, '/api/lists'),
  devices: () => call(z.array(ShopDevice), '/api/devices'),
  addDevice: (device: NewDevice) => call(z.array(ShopDevice), '/api/devices', 'POST', device),
  removeDevice: (id: number) => call(z.array(ShopDevice), `/api/devices/${id}`, 'DELETE'),
  returnDevice: (id: number) => call(z.array(ShopDevice), `/api/devices/${id}`, 'PUT'),
  actAt: (id: number, act: ActRequest) =>
    call(z.array(ShopDevice), `/api/devices/${id}/act`, 'POST', act),
  failAt: (id: number, failure: Failure) =>
    call(z.array(ShopDevice), `/api/devices/${id}/failure`, 'POST', failure),
  sendings: (piece: number) => call(z.array(Sending), `/api/pieces/${piece}/sendings`),
  send: (task: string, request: SendRequest) =>
    call(Sending, `/api/tasks/${task}/sendings`, 'POST', request),
  cancelSending: (key: string) => call(Sending, `/api/sendings/${key}/cancel`, 'POST'),
  profiles: () => call(z.array(KnownProfile), '/api/profiles'),
  addProfile: async (file: File) => {
    const response = await fetch('/api/profiles', {
      method: 'POST',
      body: file,
      headers: { 'x-file-name': encodeURIComponent(file.name) },
    }).catch(() => {
      throw new ServerProblem(UNREACHABLE, 0);
    });
    const answer: unknown = await response.json().catch(() => null);
    if (!response.ok) throw problemFrom(answer, response.status);
    return KnownProfile.parse(answer);
  },
  removeProfile: (digest: string) => call(z.null(), `/api/profiles/${digest}`, 'DELETE'),
  jpegCosts: (rgb: Uint8Array<ArrayBuffer>, size: Size, how: JpegHow, places: number) =>
    callBytes(`${jpegCostAddress(size, how)}&places=${places}`, { method: 'POST', body: rgb }).then(
      (answer) => z.array(JpegCost).parse(JSON.parse(new TextDecoder().decode(answer))),
    ),
  /** a picture as a JPEG of a result's file would have it */
  jpeg: async (rgb: Uint8Array<ArrayBuffer>, size: Size, how: JpegHow, quality: number) =>
    new Blob(
      [
        await callBytes(`${jpegCostAddress(size, how)}&quality=${quality}`, {
          method: 'POST',
          body: rgb,
        }),
      ],
      { type: 'image/jpeg' },
    ),
  approve: (pieceId: number, request: ApprovalRequest) =>
    call(JobView, `/api/pieces/${pieceId}/approval`, 'POST', request),
  withdraw: (pieceId: number, request: Withdrawal) =>
    call(JobView, `/api/pieces/${pieceId}/approval`, 'DELETE', request),
  house: () => call(z.array(ListedHouse), '/api/house'),
  addHouse: (draft: HouseDraft) => call(HouseRecipe, '/api/house', 'POST', draft),
  changeHouse: (id: number, change: HouseChange) =>
    call(HouseRecipe, `/api/house/${id}`, 'PATCH', change),
  deleteHouse: (id: number) => call(z.null(), `/api/house/${id}`, 'DELETE'),
  restoreHouse: (id: number) => call(HouseRecipe, `/api/house/${id}/restore`, 'POST'),
  applyHouse: (id: number, request: ApplyRequest) =>
    call(z.array(Applied), `/api/house/${id}/apply`, 'POST', request),
  houseVersions: (id: number) => call(z.array(PastHouse), `/api/house/${id}/versions`),
  batches: () => call(z.array(BatchHead), '/api/batches'),
  batch: (id: number) => call(BatchHead, `/api/batches/${id}`),
  addBatch: (batch: NewBatch) => call(BatchHead, '/api/batches', 'POST', batch),
  changeBatch: (id: number, change: BatchChange) =>
    call(BatchHead, `/api/batches/${id}`, 'PATCH', change),
  deleteBatch: (id: number) => call(z.null(), `/api/batches/${id}`, 'DELETE'),
  restoreBatch: (id: number) => call(BatchHead, `/api/batches/${id}/restore`, 'POST'),
  batchItems: (id: number, { items, tasks }: ItemsKnown) =>
    call(ItemsNews, `/api/batches/${id}/items?items=${items}&tasks=${tasks}`),
  addItems: (id: number, added: NewItems) =>
    call(z.int(), `/api/batches/${id}/items`, 'POST', added),
  actOnItems: (id: number, act: ItemsAct) =>
    call(ItemsOutcome, `/api/batches/${id}/acts`, 'POST', act),
  folders: () => call(NamedFolders, '/api/folders'),
  piece: (id: number) => call(Piece, `/api/pieces/${id}`),
  settings: () => call(ShopSettings, '/api/settings'),
  settingChanges: () => call(z.array(PastChange), '/api/settings/changes'),
  changeSettings: (change: SettingsChange) => call(ShopSettings, '/api/settings', 'PATCH', change),
  maps: (digest: string, page: number) =>
    call(Maps.nullable(), `/api/originals/${digest}/pages/${page}/maps`),
  addPieces: (id: number, pieces: NewPieces) =>
    call(JobView, `/api/jobs/${id}/pieces`, 'POST', pieces),
  beginJob: (job: NewJob) => call(JobView, '/api/jobs', 'POST', job),
  changeJob: (id: number, change: JobChange, piece?: number) =>
    call(JobView, `/api/jobs/${id}${ofPiece(piece)}`, 'PATCH', change),
  shop: () => call(ShopState, '/api/shop'),
  storage: () => call(Storage, '/api/shop/storage'),
  backups: () => call(Backups, '/api/backups'),
  beginBackup: (request: BackupRequest) => call(Backups, '/api/backups', 'POST', request),
  cancelBackup: (id: number) => call(Backups, `/api/backups/${id}`, 'DELETE'),
  beginAudit: () => call(ShopState, '/api/shop/audit', 'POST'),
  changePiece: (id: number, change: PieceChange) =>
    call(Piece, `/api/pieces/${id}/changes`, 'POST', change),
  movePiece: (id: number, move: PieceMove) => call(Piece, `/api/pieces/${id}/moves`, 'POST', move),
  run: (pieceId: number, request: RunRequest) =>
    call(Run, `/api/pieces/${pieceId}/runs`, 'POST', request),
  stops: (digest: string, page: number, { x, y, width, height }: Region) =>
    call(
      z.array(Stop),
      `/api/originals/${digest}/pages/${page}/stops?x=${x}&y=${y}&width=${width}&height=${height}`,
    ),
  comparing: (piece: number) => call(Comparing, `/api/pieces/${piece}/comparing`),
  addMark: (piece: number, mark: NewMark) => call(Mark, `/api/pieces/${piece}/marks`, 'POST', mark),
  noteMark: (id: number, note: string) => call(z.null(), `/api/marks/${id}`, 'PATCH', { note }),
  removeMark: (id: number) => call(z.null(), `/api/marks/${id}`, 'DELETE'),
  keepSweep: (piece: number, sweep: Sweep) =>
    // It is sent although the page is left meanwhile.
    call(Sweep, `/api/pieces/${piece}/sweeps`, 'PUT', sweep, { keepalive: true }),
  /** takes a picture out of a page of shapes */
  takeOut: (digest: string, page: number, picture: number) =>
    call(TakenOutPicture, `/api/originals/${digest}/pages/${page}/pictures/${picture}`, 'POST'),
  bring: (piece: number, picture: Pick<NewPicture, 'digest' | 'fileName'>) =>
    call(Brought, `/api/pieces/${piece}/brought`, 'POST', picture),
  orderAgain: (id: number, order: OrderAgain) =>
    call(JobView, `/api/jobs/${id}/again`, 'POST', order),
  runAgain: (task: string) => call(Run, `/api/tasks/${task}/again`, 'POST'),
  requestProof: (piece: number, request: ProofRequest) =>
    call(ProofTask, `/api/pieces/${piece}/proofs`, 'POST', request),
  requestSheet: (piece: number, request: SheetRequest) =>
    call(SheetTask, `/api/pieces/${piece}/sheets`, 'POST', request),
  putAway: (id: number) => call(z.null(), `/api/brought/${id}`, 'DELETE'),
  openTasks: () => call(z.array(Task), '/api/tasks'),
  readTask: (id: string) => call(Task, `/api/tasks/${id}`),
  moveTask: (id: string, before: string | null) =>
    call(Task, `/api/tasks/${id}/move`, 'POST', { before }),
  cancelTask: (id: string) => call(Task, `/api/tasks/${id}/cancel`, 'POST'),
};

export const thumbnailOf = (digest: string, page = 1): string =>
  `/api/originals/${digest}/pages/${page}/thumbnail`;
export const resultsAddress = (batch: number): string => `/api/batches/${batch}/results`;
export const artifactAddress = (task: string, role: Artifact['role']): string =>
  `/api/tasks/${task}/artifacts/${role}`;

/** Uploads one file; fetch tells nothing of an upload's progress, the older interface does. */
export function upload(file: File, onProgress: (share: number) => void): Promise<TakenIn> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', '/api/originals');
    request.setRequestHeader('X-File-Name', encodeURIComponent(file.name));
    request.upload.onprogress = (event) => onProgress(event.loaded / event.total);
    request.onerror = () => reject(new ServerProblem(UNREACHABLE, 0));
    request.onload = () => {
      let answer: unknown = null;
      try {
        answer = JSON.parse(request.responseText);
      } catch {
        // an answer that isn't JSON is trouble without words
      }
      if (request.status === 200) resolve(TakenIn.parse(answer));
      else reject(problemFrom(answer, request.status));
    };
    request.send(file);
  });
}
