<?php

declare(strict_types=1);

namespace App\Judgment\Section;

use OpenApi\Attributes as OA;

/** Coefficients with errors, tests and intervals, and what the fit says about itself. */
final readonly class CoefficientsSection implements \JsonSerializable
{
    /**
     * @param list<CoefficientView>         $coefficients the constant first
     * @param bool                          $chosen       whether the same rows chose the columns
     * @param array<string, int|float|null> $fit          what the fit on all unsealed rows says about itself
     */
    public function __construct(
        #[OA\Property(enum: ['coefficients'])]
        public string $kind,
        public array $coefficients,
        public bool $chosen,
        public array $fit,
    ) {
    }

    /** @return array<string, mixed> no figures are an object without any, not a list */
    public function jsonSerialize(): array
    {
        return ['fit' => (object) $this->fit] + get_object_vars($this);
    }
}
