import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { PlacedParameter } from '../../core/sheet/index-sheet';
import type { Rational } from '../../core/scaling/rational';
import type { Scaled } from '../../core/scaling/scale';
import type { SpeedScale } from '../../core/scaling/speed-scale';

/** What every part below the scales works on. */
export interface PartProps {
  readonly index: SheetIndex;
  readonly place: PlacedParameter;
  readonly scale: SpeedScale;
  readonly wanted: Rational;
  readonly scaled: Scaled;
  readonly onWanted: (value: Rational) => void;
}
