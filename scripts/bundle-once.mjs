// Unit tests start the threads and the terminal that ship.
import { bundle } from './bundle.mjs';

export const setup = bundle;
