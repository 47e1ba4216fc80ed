import { PlannedStage } from './planned-stage';

export function RegistersStage() {
  return (
    <PlannedStage
      name="Registers"
      purpose="Read all parameters, compare with defaults and files, stage changes and write them on purpose."
      meanwhile="Meanwhile Frames reads and writes any parameter of the sheet and shows its address in every notation."
    />
  );
}
