<?php

declare(strict_types=1);

namespace App\Tests;

use PhpParser\Node;
use PhpParser\Node\Expr\Instanceof_;
use PhpParser\Node\Name;
use PHPStan\Analyser\Scope;
use PHPStan\Rules\IdentifierRuleError;
use PHPStan\Rules\Rule;
use PHPStan\Rules\RuleErrorBuilder;

/**
 * What a model can do is asked by the interfaces of core/src/Learn, not by its class: a new learner is one folder and one line.
 *
 * @implements Rule<Instanceof_>
 */
final class NoModelByName implements Rule
{
    private const FAMILIES = 'Dokimos\Core\Learn\\';

    public function getNodeType(): string
    {
        return Instanceof_::class;
    }

    /** @return list<IdentifierRuleError> */
    public function processNode(Node $node, Scope $scope): array
    {
        if (!$node->class instanceof Name) {
            return [];
        }
        $class = $scope->resolveName($node->class);
        $own = (string) $scope->getNamespace();
        $family = substr($class, 0, (int) strrpos($class, '\\'));
        if (!str_starts_with($class, self::FAMILIES) || !str_ends_with($class, 'Model') || self::FAMILIES === $family.'\\' || str_starts_with($own, $family) || str_contains($own, '\Tests')) {
            return [];
        }

        return [RuleErrorBuilder::message(\sprintf(
            '%s is asked for by its class; ask for what it can do, by an interface of core/src/Learn.',
            $class,
        ))->identifier('dokimos.model')->build()];
    }
}
