import { RegistersStage } from '../../features/planned/registers-stage';

export default function Page() {
  return <RegistersStage />;
}
