import { HandoverStage } from '../../features/handover/handover-stage';

export default function Page() {
  return <HandoverStage />;
}
