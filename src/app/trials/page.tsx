import { TrialsStage } from '../../features/trials/trials-stage';

export default function Page() {
  return <TrialsStage />;
}
