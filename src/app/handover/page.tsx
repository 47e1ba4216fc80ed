import { PlannedStage } from '../../features/planned/planned-stage';

export default function Page() {
  return (
    <PlannedStage
      name="Handover"
      purpose="The evening’s work as files that others can open."
      meanwhile="Meanwhile the trace stays in this browser."
    />
  );
}
