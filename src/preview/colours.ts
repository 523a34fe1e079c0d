import { startEngine, type ColourEngine } from '@/core/colour/engine';
import type { Conversion } from '@/core/colour/conversion';
import { SRGB } from '@/core/colour/profiles';
import type { Proof, ProofWays } from '@/core/colour/proof';
import { transformsFrom, type ProfilePair } from '@/core/colour/transforms';
import { enginePackage } from './engine-package';
import { fetchedBytes, type PreviewOriginal } from './originals';

let starting: Promise<ColourEngine> | undefined;

/** The colour engine, loaded when a print is first simulated. */
function engine(): Promise<ColourEngine> {
  starting ??= Promise.all([enginePackage(), fetchedBytes('/api/engine/lcms.wasm')]).then(
    ([lcms, code]) => startEngine(lcms, code.buffer),
  );
  starting.catch(() => (starting = undefined));
  return starting;
}

const profiles = new Map<string, Promise<Uint8Array>>();

function once(address: string): Promise<Uint8Array> {
  const known = profiles.get(address) ?? fetchedBytes(address);
  profiles.set(address, known);
  known.catch(() => profiles.delete(address));
  return known;
}

const profileOf = (digest: string) => once(`/api/profiles/${digest}`);

const transformed = transformsFrom(engine);

/** What describes an original's colours. */
async function ownProfile({
  digest,
  page,
  profiled,
}: PreviewOriginal): Promise<ProfilePair['from']> {
  const srgb = { digest: SRGB.digest, bytes: await profileOf(SRGB.digest) };
  if (!profiled) return srgb;
  const bytes = await once(`/api/originals/${digest}/pages/${page}/profile`);
  return bytes.length > 0 ? { digest: `${digest} ${page}`, bytes } : srgb;
}

/** The ways that a proof of an original takes. */
export async function proofWays(
  original: PreviewOriginal,
  { conversion, paperWhite }: Proof,
): Promise<ProofWays> {
  const [own, print, srgb] = await Promise.all([
    ownProfile(original),
    profileOf(conversion.profile),
    profileOf(SRGB.digest),
  ]);
  const device = { digest: conversion.profile, bytes: print };
  const toPrint = (how: Pick<Conversion, 'intent' | 'blackPoint'>) =>
    transformed({ from: own, to: print }, { ...conversion, ...how });
  const toScreen = (from: ProfilePair['from'], how: Pick<Conversion, 'intent' | 'blackPoint'>) =>
    transformed({ from, to: srgb }, { profile: SRGB.digest, space: 'rgb', ...how });
  const plain = { intent: 'relative', blackPoint: true } as const;
  const [there, back, unprinted, printed, screen] = await Promise.all([
    toPrint(plain),
    toScreen(device, plain),
    toScreen(own, plain),
    toPrint(conversion),
    toScreen(device, paperWhite ? { intent: 'absolute', blackPoint: false } : plain),
  ]);
  return { print: printed, screen, unprinted, there, back };
}
