import { JobStage } from '../features/job/job-stage';

export default function Page() {
  return <JobStage />;
}
