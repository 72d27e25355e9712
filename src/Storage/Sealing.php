<?php

declare(strict_types=1);

namespace App\Storage;

/** Seals what has to be read again, such as passwords of databases, by a key that lies outside the store. */
final readonly class Sealing
{
    public function __construct(#[\SensitiveParameter] private string $secret)
    {
    }

    /** @param string $for what it is sealed for: what was sealed for one thing opens no other */
    public function seal(#[\SensitiveParameter] string $plain, string $for): string
    {
        $nonce = random_bytes(\SODIUM_CRYPTO_SECRETBOX_NONCEBYTES);

        return base64_encode($nonce.sodium_crypto_secretbox($plain, $nonce, $this->key($for)));
    }

    /** @return ?string null where it was sealed by another key, or for another thing */
    public function open(string $sealed, string $for): ?string
    {
        $bytes = (string) base64_decode($sealed, true);
        $plain = \strlen($bytes) > \SODIUM_CRYPTO_SECRETBOX_NONCEBYTES
            ? sodium_crypto_secretbox_open(
                substr($bytes, \SODIUM_CRYPTO_SECRETBOX_NONCEBYTES),
                substr($bytes, 0, \SODIUM_CRYPTO_SECRETBOX_NONCEBYTES),
                $this->key($for),
            )
            : false;

        return false === $plain ? null : $plain;
    }

    private function key(string $for): string
    {
        return hash_hkdf('sha256', $this->secret, \SODIUM_CRYPTO_SECRETBOX_KEYBYTES, $for);
    }
}
