import { readFileSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';

/** One fault: what stands at a place, and what is put there. */
export interface Fault {
  file: string;
  at: number;
  end: number;
  put: string;
  sort: string;
  /** Where that begins which the fault keeps from being done: a test that does not come by there cannot see it. */
  taken?: number;
}

const swaps: Partial<Record<ts.SyntaxKind, [string, string]>> = {
  [ts.SyntaxKind.LessThanToken]: ['<=', 'bound'],
  [ts.SyntaxKind.LessThanEqualsToken]: ['<', 'bound'],
  [ts.SyntaxKind.GreaterThanToken]: ['>=', 'bound'],
  [ts.SyntaxKind.GreaterThanEqualsToken]: ['>', 'bound'],
  [ts.SyntaxKind.EqualsEqualsEqualsToken]: ['!==', 'condition'],
  [ts.SyntaxKind.ExclamationEqualsEqualsToken]: ['===', 'condition'],
  [ts.SyntaxKind.AmpersandAmpersandToken]: ['||', 'condition'],
  [ts.SyntaxKind.BarBarToken]: ['&&', 'condition'],
  [ts.SyntaxKind.PlusToken]: ['-', 'digits'],
  [ts.SyntaxKind.MinusToken]: ['+', 'order'],
};
/** Names of clocks that are easily taken for each other. */
const clocks: Record<string, string> = { now: 'monotonic', monotonic: 'now' };

/** The one fault that a node itself may have. */
function faultAt(node: ts.Node): Omit<Fault, 'file'> | null {
  const of = (at: ts.Node, put: string, sort: string) => ({ at: at.getStart(), end: at.getEnd(), put, sort });
  if (ts.isBinaryExpression(node)) {
    const swap = swaps[node.operatorToken.kind];
    // Texts that are joined are words, not figures.
    const words = [node.left, node.right].some((side) => ts.isStringLiteralLike(side) || ts.isTemplateExpression(side));
    return swap && !words ? of(node.operatorToken, ...swap) : null;
  }
  if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken)
    return of(node, node.operand.getText(), 'condition');
  if (
    ts.isIfStatement(node) &&
    !node.elseStatement &&
    /^\{?\s*(return|throw|continue)\b/.test(node.thenStatement.getText())
  )
    return { ...of(node.expression, 'false', 'gate'), taken: node.thenStatement.getStart() };
  if (ts.isNumericLiteral(node) && !ts.isPropertyAssignment(node.parent))
    return of(node, `${node.getText()} + 1`, 'digits');
  if (ts.isPropertyAccessExpression(node) && /^(house|clock|input|context)$/.test(node.expression.getText())) {
    const other = clocks[node.name.text];
    if (other !== undefined) return of(node.name, other, 'clock');
  }
  return null;
}

/**
 * Every fault that a file of the tree may have.
 *
 * @param root the tree's folder; `file` is a path from there
 */
export function faultsOf(root: string, file: string): Fault[] {
  const text = readFileSync(path.join(root, file), 'utf8');
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  const found: Fault[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node) || ts.isInterfaceDeclaration(node)) return;
    const fault = faultAt(node);
    if (fault) found.push({ file, ...fault });
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}
