import ts from 'typescript';

/** A small change of a program, as its text would be in place of what stands there. */
export interface Mutation {
  /** Place in the text, and the length of what is replaced. */
  from: number;
  length: number;
  text: string;
  /** Line, from 1. */
  line: number;
  was: string;
}

const OTHER: Readonly<Record<string, string>> = {
  '<': '<=',
  '<=': '<',
  '>': '>=',
  '>=': '>',
  '===': '!==',
  '!==': '===',
  '+': '-',
  '-': '+',
  '*': '/',
  '/': '*',
  '%': '*',
  '&&': '||',
  '||': '&&',
  '??': '&&',
};

/** All small changes of a TypeScript file that are looked at: operators, numbers, truth values, conditions, and calls left out. */
export function mutationsOf(file: string, source: string): Mutation[] {
  const tree = ts.createSourceFile(file, source, ts.ScriptTarget.Latest, true);
  const found: Mutation[] = [];
  const add = (node: ts.Node, text: string): void => {
    const from = node.getStart(tree);
    found.push({
      from,
      length: node.getEnd() - from,
      text,
      line: tree.getLineAndCharacterOfPosition(from).line + 1,
      was: node.getText(tree),
    });
  };
  const visit = (node: ts.Node): void => {
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const other = OTHER[node.operatorToken.getText(tree)];
      if (other && !isOnText(node)) add(node.operatorToken, other);
    } else if (ts.isNumericLiteral(node)) add(node, String(Number(node.text) + 1));
    else if (node.kind === ts.SyntaxKind.TrueKeyword) add(node, 'false');
    else if (node.kind === ts.SyntaxKind.FalseKeyword) add(node, 'true');
    else if (ts.isIfStatement(node) || ts.isConditionalExpression(node)) {
      const condition = ts.isIfStatement(node) ? node.expression : node.condition;
      add(condition, `!(${condition.getText(tree)})`);
    } else if (ts.isExpressionStatement(node) && ts.isCallExpression(skipAwait(node.expression)))
      add(node, ';');
    ts.forEachChild(node, visit);
  };
  visit(tree);
  return found;
}

const skipAwait = (node: ts.Expression): ts.Expression =>
  ts.isAwaitExpression(node) || ts.isVoidExpression(node) ? skipAwait(node.expression) : node;

/** Texts that are put together: another operator would make no program. */
const isOnText = (node: ts.BinaryExpression): boolean =>
  node.operatorToken.kind === ts.SyntaxKind.PlusToken &&
  [node.left, node.right].some(
    (side) => ts.isStringLiteralLike(side) || ts.isTemplateExpression(side),
  );
