import { RegistersStage } from '../../features/registers/registers-stage';

export default function Page() {
  return <RegistersStage />;
}
