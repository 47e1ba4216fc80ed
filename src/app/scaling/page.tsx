import { ScalingStage } from '../../features/scaling/scaling-stage';

export default function Page() {
  return <ScalingStage />;
}
