import { WordsStage } from '../../features/words/words-stage';

export default function Page() {
  return <WordsStage />;
}
