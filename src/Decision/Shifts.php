<?php

declare(strict_types=1);

namespace App\Decision;

use App\Score\ScoredTables;
use App\Score\Scoring;

/** Whether answers for new records differ from those of the last time by more than chance. */
final readonly class Shifts
{
    /** Standard errors from which on it is said: one false word in some 400 runs. */
    private const FAR = 3.0;

    public function __construct(private ScoredTables $scored)
    {
    }

    /** @return array{mean: ?float, spread: ?float, scored: int} of all answers */
    public function of(Scoring $scoring): array
    {
        $n = 0;
        $sum = $squares = 0.0;
        foreach ($this->scored->answers($scoring) as $answer) {
            if (!is_nan($answer)) {
                ++$n;
                $sum += $answer;
                $squares += $answer * $answer;
            }
        }

        return [
            'mean' => 0 === $n ? null : $sum / $n,
            'spread' => $n < 2 ? null : sqrt(max(0.0, ($squares - $sum * $sum / $n) / ($n - 1))),
            'scored' => $n,
        ];
    }

    /**
     * @param array{mean: ?float, spread: ?float, scored: int} $now
     * @param array{mean: ?float, spread: ?float, scored: int} $before
     */
    public function warning(array $now, array $before): ?string
    {
        if (null === $now['mean'] || null === $before['mean'] || null === $now['spread'] || null === $before['spread']) {
            return null;
        }
        $error = sqrt($now['spread'] ** 2 / $now['scored'] + $before['spread'] ** 2 / max(1, $before['scored']));
        if (abs($now['mean'] - $before['mean']) <= self::FAR * $error) {
            return null;
        }

        return \sprintf('Answers are %.3g on average; the last time they were %.3g.', $now['mean'], $before['mean']);
    }
}
