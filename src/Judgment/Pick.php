<?php

declare(strict_types=1);

namespace App\Judgment;

use Dokimos\Core\Task\CutOff;

/** Which validation rows of a trial are meant; nothing said means all of them. */
final readonly class Pick
{
    /**
     * @param 'tp'|'fp'|'fn'|'tn'|null $cell  of the matrix at the cut-off, of an event
     * @param ?string                  $came  only rows of this class, of several
     * @param ?string                  $named only rows that were taken for this class
     * @param ?float                   $low   only rows that came at least so much over what was predicted, of a number; below 0: under
     * @param ?float                   $high  and less than so much
     */
    public function __construct(
        public ?string $cell,
        public CutOff $cutoff,
        public ?string $came = null,
        public ?string $named = null,
        public ?float $low = null,
        public ?float $high = null,
    ) {
    }
}
