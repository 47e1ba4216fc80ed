import { TrialsStage } from '../../features/planned/trials-stage';

export default function Page() {
  return <TrialsStage />;
}
