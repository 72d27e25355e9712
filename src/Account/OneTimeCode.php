<?php

declare(strict_types=1);

namespace App\Account;

/**
 * Codes of six digits that an app on a telephone shows for half a minute each: HMAC-SHA-1 over the number of the half minute, by a secret
 * that both know (RFC 6238 over RFC 4226). Written here because no package for it is to be had where Dokimos is built; its test holds the
 * values of both documents.
 */
final class OneTimeCode
{
    private const ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567';
    private const SECONDS = 30;
    private const DIGITS = 6;
    /** Half minutes that a clock may be off. */
    private const OFF = 1;

    /** A new secret, as apps read it. */
    public static function secret(): string
    {
        return self::written(random_bytes(20));
    }

    /** What an app reads from a picture or a link. */
    public static function link(string $secret, string $login): string
    {
        return \sprintf('otpauth://totp/Dokimos:%s?secret=%s&issuer=Dokimos', rawurlencode($login), $secret);
    }

    public static function at(string $secret, int $step): string
    {
        $hash = hash_hmac('sha1', pack('J', $step), self::read($secret), true);
        $from = \ord($hash[19]) & 15;
        $number = (\ord($hash[$from]) & 127) << 24 | \ord($hash[$from + 1]) << 16 | \ord($hash[$from + 2]) << 8 | \ord($hash[$from + 3]);

        return str_pad((string) ($number % 10 ** self::DIGITS), self::DIGITS, '0', \STR_PAD_LEFT);
    }

    /**
     * @param int $after steps up to this one were used: a code opens once
     *
     * @return ?int the step that the code is of; null where it is none
     */
    public static function check(string $secret, string $code, float $now, int $after = 0): ?int
    {
        $code = (string) preg_replace('/\s+/', '', $code);
        $step = intdiv((int) $now, self::SECONDS);
        $found = null;
        for ($k = $step - self::OFF; $k <= $step + self::OFF; ++$k) {
            // All are compared, so that the time tells nothing.
            if (hash_equals(self::at($secret, $k), $code) && $k > $after) {
                $found = $k;
            }
        }

        return $found;
    }

    /** Base 32 (RFC 4648) without padding. */
    private static function written(string $bytes): string
    {
        $bits = '';
        foreach (str_split($bytes) as $byte) {
            $bits .= str_pad(decbin(\ord($byte)), 8, '0', \STR_PAD_LEFT);
        }

        return implode('', array_map(
            static fn (string $five): string => self::ALPHABET[(int) bindec(str_pad($five, 5, '0'))],
            str_split($bits, 5),
        ));
    }

    private static function read(string $written): string
    {
        $bits = '';
        foreach (str_split(strtoupper($written)) as $letter) {
            $bits .= str_pad(decbin((int) strpos(self::ALPHABET, $letter)), 5, '0', \STR_PAD_LEFT);
        }

        return implode('', array_map(
            static fn (string $byte): string => 8 === \strlen($byte) ? \chr((int) bindec($byte)) : '',
            str_split($bits, 8),
        ));
    }
}
