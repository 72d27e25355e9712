<?php

declare(strict_types=1);

namespace Dokimos\Core\Table;

/** A column holds another kind of values than the model learned of it, so nothing can be read from it. */
final class OtherKind extends \DomainException
{
    public const NUMBER = 'a number';
    public const NUMBERS = 'numbers';
    public const CATEGORY = 'a category';
    public const CATEGORIES = 'categories';
    public const EITHER = 'numbers or categories';
    public const ANOTHER = 'another kind';

    public function __construct(string $name, Column $found, string $learned)
    {
        parent::__construct(\sprintf('Column "%s" is %s in this table; the model learned it as %s.', $name, $found->kind()->value, $learned));
    }
}
