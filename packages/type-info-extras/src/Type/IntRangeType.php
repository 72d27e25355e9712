<?php

declare(strict_types=1);

namespace Radebatz\TypeInfoExtras\Type;

use Symfony\Component\TypeInfo\Type\BuiltinType;
use Symfony\Component\TypeInfo\TypeIdentifier;

/** An integer with bounds. Never made here; the generator only asks "is it one?". */
abstract class IntRangeType extends BuiltinType
{
    public function __construct(private readonly int $from, private readonly int $to)
    {
        parent::__construct(TypeIdentifier::INT);
    }

    public function getFrom(): int
    {
        return $this->from;
    }

    public function getTo(): int
    {
        return $this->to;
    }
}
