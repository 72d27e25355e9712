<?php

declare(strict_types=1);

namespace Dokimos\Core\Table;

/** Dates: seconds of local civil time since 1970 per row, PHP_INT_MIN = missing. */
final readonly class DateColumn implements Column
{
    public const MISSING = \PHP_INT_MIN;
    public const DAY = 86400;

    /** @param list<int> $seconds */
    public function __construct(public array $seconds)
    {
    }

    public function kind(): Kind
    {
        return Kind::Date;
    }

    public function count(): int
    {
        return \count($this->seconds);
    }

    public function missing(): int
    {
        return \count(array_keys($this->seconds, self::MISSING, true));
    }

    public function isMissing(int $row): bool
    {
        return self::MISSING === $this->seconds[$row];
    }

    public function text(int $row): ?string
    {
        $s = $this->seconds[$row];

        return self::MISSING === $s ? null : self::write($s);
    }

    public static function write(int $seconds): string
    {
        return gmdate(0 === $seconds % self::DAY ? 'Y-m-d' : 'Y-m-d\TH:i:s', $seconds);
    }

    public function take(array $rows): static
    {
        $seconds = [];
        foreach ($rows as $row) {
            $seconds[] = $this->seconds[$row];
        }

        return new static($seconds);
    }
}
