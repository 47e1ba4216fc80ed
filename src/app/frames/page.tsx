import { FramesStage } from '../../features/frames/frames-stage';

export default function Page() {
  return <FramesStage />;
}
