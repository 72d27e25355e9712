<?php

declare(strict_types=1);

namespace Radebatz\TypeInfoExtras\Type;

use Symfony\Component\TypeInfo\Type\BuiltinType;
use Symfony\Component\TypeInfo\TypeIdentifier;

/** A built-in type with a narrower name. Never made here; the generator only asks "is it one?". */
abstract class ExplicitType extends BuiltinType
{
    public function __construct(TypeIdentifier $typeIdentifier, private readonly string $explicitType)
    {
        parent::__construct($typeIdentifier);
    }

    public function getExplicitType(): string
    {
        return $this->explicitType;
    }
}
