import { SheetsStage } from '../../features/sheets/sheets-stage';

export default function Page() {
  return <SheetsStage />;
}
