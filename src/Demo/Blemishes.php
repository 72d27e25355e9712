<?php

declare(strict_types=1);

namespace App\Demo;

/** Which faults of real data the generator plants; each can be switched off. */
final readonly class Blemishes
{
    public const ALL = ['missing-age', 'missing-code', 'missing-channel', 'near-copy', 'constant', 'skew', 'outliers', 'minus-one', 'code', 'afterwards', 'interaction', 'note', 'repeats'];

    /** @param list<string> $off */
    public function __construct(private array $off = [])
    {
        if ([] !== $unknown = array_diff($off, self::ALL)) {
            throw new \InvalidArgumentException(\sprintf('There is no blemish called %s; choose from %s.', implode(', ', $unknown), implode(', ', self::ALL)));
        }
    }

    public function has(string $name): bool
    {
        return !\in_array($name, $this->off, true);
    }
}
