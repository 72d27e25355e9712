<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn;

/** A model whose answer is, on some scale, a sum of functions of one column or of two: it can be shared out exactly. */
interface AddsTerms extends Model
{
    /**
     * @param ?int $class of several, whose chance it is
     *
     * @return ?SumOfTerms null where no sum stands behind the answer
     */
    public function terms(?int $class): ?SumOfTerms;
}
