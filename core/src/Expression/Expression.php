<?php

declare(strict_types=1);

namespace Dokimos\Core\Expression;

/**
 * A value that follows from the columns of one record: what takes a model to where it runs without PHP. A missing number is NAN here, NULL
 * in
 * a database. Arithmetic with something missing is missing; a comparison with something missing does not hold.
 */
interface Expression extends \JsonSerializable
{
    /** @return list<Expression> what it is made of */
    public function parts(): array;
}
