import { PlannedStage } from './planned-stage';

export function TrialsStage() {
  return (
    <PlannedStage
      name="Trials"
      purpose="Scripted test runs with what was seen beside each step."
      meanwhile="Meanwhile the trace keeps what was sent and what came back."
    />
  );
}
