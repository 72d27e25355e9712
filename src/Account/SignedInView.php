<?php

declare(strict_types=1);

namespace App\Account;

/** A place where somebody is signed in. */
final readonly class SignedInView
{
    /** @param bool $own whether it is the one that asks */
    public function __construct(
        public string $hash,
        public string $address,
        public string $agent,
        public string $began,
        public string $seen,
        public bool $own,
    ) {
    }

    /** @param array<string, mixed> $row */
    public static function of(array $row, string $own): self
    {
        $text = static fn (string $key): string => \is_scalar($row[$key] ?? null) ? (string) $row[$key] : '';
        $time = static fn (string $key): string => gmdate(\DATE_ATOM, (int) (float) $text($key));

        return new self($text('id_hash'), $text('address'), $text('agent'), $time('began'), $time('seen'), $text('id_hash') === $own);
    }
}
