import type { Spot } from '@/core/steps/retouch/retouch';
import { benchStore } from '../../picture-store';

/** What a press on the picture does. */
export type Tool =
  /** paints a zone, or takes a colour for one of its parts */
  | { kind: 'zone'; id: string; picking: number | null }
  | { kind: 'heal' }
  /** clones from a place, in pixels of the original, once one was pressed */
  | { kind: 'clone'; from: { x: number; y: number } | null };

export interface BrushSettings {
  /** radius in pixels of the original */
  size: number;
  softness: number;
  flow: number;
  takingAway: boolean;
}

/** How the zone under work is shown. */
export type ZoneLook = 'over' | 'alone' | 'hidden';

interface Tools {
  tool: Tool | null;
  brush: BrushSettings;
  zoneLook: ZoneLook;
  spotRadius: number;
  /** spots that the application found, until they are healed or refused */
  suggested: readonly Spot[];
  /** the picture is moved rather than worked on, for as long as a key is held */
  panning: boolean;
}

export const useTool = benchStore<Tools>(
  {
    tool: null,
    brush: { size: 60, softness: 0.6, flow: 1, takingAway: false },
    zoneLook: 'over',
    spotRadius: 6,
    suggested: [],
    panning: false,
  },
  ['tool', 'suggested'],
);

/** Takes a tool in hand, or lays it down. */
export const takeTool = (tool: Tool | null): void => useTool.setState({ tool });

/** Takes a zone under work. */
export const editZone = (id: string): void => takeTool({ kind: 'zone', id, picking: null });

/** What the tool for spots does, if it is in hand. */
export const spottingOf = (tool: Tool | null): 'heal' | 'clone' | null =>
  tool?.kind === 'heal' || tool?.kind === 'clone' ? tool.kind : null;

/** Lays down what mends spots: the step that it belonged to is no longer open. */
export const endSpotting = (): void => {
  if (spottingOf(useTool.getState().tool)) takeTool(null);
};
