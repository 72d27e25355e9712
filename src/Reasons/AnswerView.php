<?php

declare(strict_types=1);

namespace App\Reasons;

/** An answer with how sure it is. */
final readonly class AnswerView
{
    /**
     * @param ?float               $value    a chance, a number, or the chance of the likeliest class
     * @param list<ClassShareView> $shares   of several classes
     * @param ?string              $why      why there is none
     * @param float                $likeness share of open records that lie in a thinner place
     */
    public function __construct(
        public ?float $value,
        public ?string $class,
        public array $shares,
        public ?string $why,
        public ?SureView $sure,
        public float $likeness,
    ) {
    }
}
