<?php

declare(strict_types=1);

namespace Dokimos\Core\Search;

use Dokimos\Core\Refusal;

/** A search that cannot be run as asked, with a sentence for the analyst. */
final class CannotSearch extends \RuntimeException implements Refusal
{
}
