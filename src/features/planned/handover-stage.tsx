import { PlannedStage } from './planned-stage';

export function HandoverStage() {
  return (
    <PlannedStage
      name="Handover"
      purpose="The evening’s work as files that others can open."
      meanwhile="Meanwhile the trace stays in this browser."
    />
  );
}
