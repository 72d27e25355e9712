<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Trial\Trial;

/** The one look at the sealed rows that a trial had. */
final readonly class SealedView
{
    /**
     * @param int $opening    which of the study's
     * @param int $rows       looked at
     * @param int $unanswered of them
     */
    public function __construct(public int $opening, public int $rows, public int $unanswered)
    {
    }

    public static function of(Trial $trial): ?self
    {
        $figures = $trial->sealedFigures();
        $opening = $trial->opening();
        if (null === $figures || null === $opening) {
            return null;
        }
        $number = static fn (string $key, int $usual): int => \is_int($figures[$key] ?? null) ? $figures[$key] : $usual;

        return new self($opening, $number('rows', 0), $number('unanswered', 0));
    }
}
