<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** What a value of a column says, or one beside a value of another column. */
final readonly class ShownEvidence
{
    /**
     * @param string      $value   as it is written, such as "over 4, up to 9"
     * @param ?string     $given   value of another column beside which it says so, such as "slot 16-19"
     * @param float       $share   of training records
     * @param list<float> $weights per class by how much it moves the log-odds of the class against the others
     */
    public function __construct(
        public string $column,
        public string $value,
        public ?string $given,
        public float $share,
        public array $weights,
    ) {
    }
}
