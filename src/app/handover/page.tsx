import { HandoverStage } from '../../features/planned/handover-stage';

export default function Page() {
  return <HandoverStage />;
}
