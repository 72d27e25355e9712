<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Tree;

use Dokimos\Core\Learn\Model;

/** A model that is a tree, to be read leaf by leaf. */
interface ShowsLeaves extends Model
{
    public function tree(): TreeModel;
}
