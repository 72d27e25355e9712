<?php

declare(strict_types=1);

namespace App\Tests;

use App\Question\Seal;
use App\Study\Study;
use PhpParser\Node;
use PhpParser\Node\Expr\MethodCall;
use PhpParser\Node\Identifier;
use PHPStan\Analyser\Scope;
use PHPStan\Rules\IdentifierRuleError;
use PHPStan\Rules\Rule;
use PHPStan\Rules\RuleErrorBuilder;
use PHPStan\Type\ObjectType;

/**
 * Only the Seal asks a study for its sealed rows; the others ask the Seal what they may look at.
 *
 * @implements Rule<MethodCall>
 */
final class OnlyTheSeal implements Rule
{
    public function getNodeType(): string
    {
        return MethodCall::class;
    }

    /** @return list<IdentifierRuleError> */
    public function processNode(Node $node, Scope $scope): array
    {
        if (!$node->name instanceof Identifier || 'sealedRows' !== $node->name->name || Seal::class === $scope->getClassReflection()?->getName()) {
            return [];
        }

        return (new ObjectType(Study::class))->isSuperTypeOf($scope->getType($node->var))->no() ? [] : [RuleErrorBuilder::message('Only App\Question\Seal asks a study for its sealed rows.')->identifier('dokimos.seal')->build()];
    }
}
