import type { Form } from '../raster/form';
import { COLOURS, type DeviceSpace } from './space';

/** What a raster of a file's colours holds: amounts of ink where that is what they are. */
export const formOf = (space: DeviceSpace, alpha: boolean): Form => ({
  colours: COLOURS[space],
  alpha,
  space: space === 'rgb' ? 'encoded' : `device ${space}`,
});
