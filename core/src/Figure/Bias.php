<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

use Dokimos\Core\Task\Task;

/** The mean of predicted less actual; nearer to 0 is better. */
final readonly class Bias extends RowMean
{
    use OfErrors;

    public function __construct()
    {
        parent::__construct('bias', 'bias', 'mean of predicted less actual', 'Whether predictions run over or under on average.', [Task::NUMBER], false, false, inUnits: true, ranks: false);
    }

    public function losses(Sample $sample): array
    {
        return self::errors($sample);
    }

    public function order(?float $a, ?float $b): int
    {
        return parent::order(null === $a ? null : abs($a), null === $b ? null : abs($b));
    }
}
