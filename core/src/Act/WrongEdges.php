<?php

declare(strict_types=1);

namespace Dokimos\Core\Act;

use Dokimos\Core\Refusal;

/** Edges, limits or amounts that no list can be made with; the message says why. */
final class WrongEdges extends \InvalidArgumentException implements Refusal
{
}
