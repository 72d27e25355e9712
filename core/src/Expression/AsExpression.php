<?php

declare(strict_types=1);

namespace Dokimos\Core\Expression;

/** A model that can be taken away: its answer follows from a record by an expression. */
interface AsExpression
{
    /**
     * @return non-empty-list<Expression> the number; the chance of the event; or of several the chance of each class
     *
     * @throws CannotExpress when it cannot as it was fitted
     */
    public function expressions(Frame $frame): array;
}
