import { create } from 'zustand';
import { useScreen } from '../../data/screen';
import { MeasureScreen } from '../../parts/MeasureScreen';
import { look, type Zoom } from './viewport';

/** Whether the screen is being measured, and how one wants to look once it is. */
export const useCalibration = create<{ open: boolean; then: Zoom | null }>(() => ({
  open: false,
  then: null,
}));

/** Looks at the print as large as it is; measures the screen first where nobody did. */
export function lookAtSize(zoom: Zoom): void {
  if (useScreen.getState().ppi === null) useCalibration.setState({ open: true, then: zoom });
  else look({ zoom });
}

/** Measures the screen, and then looks as one wished to. */
export function Calibration() {
  const { open, then } = useCalibration();
  return (
    <MeasureScreen
      show={open}
      onKept={() => then && look({ zoom: then })}
      onClose={() => useCalibration.setState({ open: false, then: null })}
    />
  );
}
