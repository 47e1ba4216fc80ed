import { LineStage } from '../../features/line/line-stage';

export default function Page() {
  return <LineStage />;
}
