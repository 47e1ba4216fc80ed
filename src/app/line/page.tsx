import { PlannedStage } from '../../features/planned/planned-stage';

export default function Page() {
  return (
    <PlannedStage
      name="Line"
      purpose="Both ends of the line side by side, what matches and what does not, the time arithmetic, and the doctor for a link that fails."
      meanwhile="Meanwhile Job opens and closes lines, and the line strip shows their settings and load."
    />
  );
}
