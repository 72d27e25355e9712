<?php

declare(strict_types=1);

namespace Dokimos\Core\Figure;

/** What figures of predicted numbers share: errors are predicted less actual, in units of the target. */
trait OfErrors
{
    /** @return list<float> */
    private static function errors(Sample $sample): array
    {
        return array_map(static fn (float $p, float $a): float => $p - $a, $sample->answers->values, $sample->outcome);
    }

    /** @return non-empty-list<float> */
    private static function squares(Sample $sample): array
    {
        $squares = array_map(static fn (float $e): float => $e * $e, self::errors($sample));

        return [] === $squares ? throw new \LengthException('A sample has rows.') : $squares;
    }

    /** The same figure of the mean for all. */
    public function baseline(Sample $sample): ?float
    {
        return $this->measured($sample->doingNothing($this->weighted()));
    }

    /** Whether the same for all goes by weights, as its interval does. */
    private function weighted(): bool
    {
        return true;
    }
}
