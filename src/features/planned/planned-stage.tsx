import { Panel, StageHead } from '../../ui/panel';

/** A stage that is not built yet: says what it will do and where the work can be done meanwhile. */
export function PlannedStage({
  name,
  purpose,
  meanwhile,
}: {
  readonly name: string;
  readonly purpose: string;
  readonly meanwhile: string;
}) {
  return (
    <>
      <StageHead title={name} aside="not built yet" />
      <Panel title="What it will do">
        <p>{purpose}</p>
        <p>{meanwhile}</p>
      </Panel>
    </>
  );
}
