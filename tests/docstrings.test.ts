import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';

/** The names of what a file exports that can be called, without a docstring. */
function unsaid(file: string): readonly string[] {
  const source = ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true);
  return source.statements.flatMap((statement) => {
    const isExported =
      ts.canHaveModifiers(statement) &&
      ts.getModifiers(statement)?.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword) === true;
    const name = isExported ? calledName(statement) : undefined;
    return name !== undefined && ts.getJSDocCommentsAndTags(statement).length === 0 ? [`${file}: ${name}`] : [];
  });
}

function calledName(statement: ts.Statement): string | undefined {
  if (ts.isFunctionDeclaration(statement) || ts.isClassDeclaration(statement)) return statement.name?.text;
  if (!ts.isVariableStatement(statement)) return undefined;
  const [declared] = statement.declarationList.declarations;
  return declared?.initializer && ts.isArrowFunction(declared.initializer) ? declared.name.getText() : undefined;
}

it.each(['core', 'link', 'standin', 'store', 'cli', 'bench'])('what src/%s offers says what it does', (folder) => {
  const root = join('src', folder);
  const files = readdirSync(root, { recursive: true, encoding: 'utf8' }).filter(
    (file) => /\.tsx?$/.test(file) && !/\.test\.tsx?$/.test(file),
  );
  expect(files.length).toBeGreaterThan(5);
  expect(files.flatMap((file) => unsaid(join(root, file)))).toEqual([]);
});
