<?php

declare(strict_types=1);

namespace Dokimos\Core\Expression;

/** What can be done with values. */
enum Operator: string
{
    case Add = '+';
    case Less = '-';
    case Times = '*';
    case Over = '/';
    case Least = 'least';
    case Most = 'greatest';
    case Exp = 'exp';
    case Log = 'log';
    /** The next whole number below. */
    case Floor = 'floor';
    case UpTo = '<=';
    case Below = '<';
    case And = 'and';
    case Or = 'or';
    /** Texts after each other. */
    case Join = 'join';

    /** Whether a condition comes out of it. */
    public function isCondition(): bool
    {
        return \in_array($this, [self::UpTo, self::Below, self::And, self::Or], true);
    }
}
