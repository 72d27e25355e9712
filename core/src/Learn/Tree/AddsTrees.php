<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

use Dokimos\Core\Learn\Model;

/** A model whose answer is a sum of trees: it can be shared out exactly. */
interface AddsTrees extends Model
{
    /**
     * @param ?int $class of several, whose chance it is
     * @param int  $most  leaves
     *
     * @return ?SumOfTrees null where no sum stands behind the answer, or of more leaves
     */
    public function sum(?int $class, int $most): ?SumOfTrees;
}
