<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** What a sum means before it becomes an answer. */
enum Scale: string
{
    case AsItIs = 'as it is';
    case LogOdds = 'log-odds';
    case Logarithm = 'logarithm';

    public function answer(float $sum): float
    {
        return match ($this) {
            self::AsItIs => $sum,
            self::LogOdds => $sum >= 0.0 ? 1.0 / (1.0 + exp(-$sum)) : exp($sum) / (1.0 + exp($sum)),
            self::Logarithm => exp(min(50.0, $sum)),
        };
    }

    /** How much the answer changes per unit of the sum, between two sums: of equal ones the slope there. */
    public function rate(float $from, float $to): float
    {
        if (self::AsItIs === $this) {
            return 1.0;
        }
        $a = $this->answer($from);
        if (abs($to - $from) < 1e-9) {
            return self::LogOdds === $this ? $a * (1.0 - $a) : $a;
        }

        return ($this->answer($to) - $a) / ($to - $from);
    }
}
