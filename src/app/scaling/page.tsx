import { PlannedStage } from '../../features/planned/planned-stage';

export default function Page() {
  return (
    <PlannedStage
      name="Scaling"
      purpose="Parallel scales under one hairline: raw, hex, Hz, rpm and percent read off at once, with the chain of working."
      meanwhile="Meanwhile Words turns a wanted speed into the number on the wire, and Frames shows where a value comes from."
    />
  );
}
