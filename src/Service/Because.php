<?php

declare(strict_types=1);

namespace App\Service;

use Dokimos\Core\Decide\ExactAccount;
use Dokimos\Core\Decide\Reasoning;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Explain\Basis;

/** What the reasons of one version rest on; read only where reasons are asked for. */
final readonly class Because
{
    /** @param list<?ExactAccount> $exact by class of several; of one answer one */
    public function __construct(private Basis $basis, private array $exact)
    {
    }

    public function reasoning(ScoringModel $model): Reasoning
    {
        return new Reasoning($model, $this->basis, fn (?int $class): ?ExactAccount => $this->exact[$class ?? 0] ?? null);
    }
}
