<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests;

use PHPUnit\Framework\Assert;

/** Holds what was computed against what a reference says, figure by figure. */
final class Same
{
    /** @param array<string, float> $looser tolerance by pattern of the place */
    public static function as(mixed $wanted, mixed $got, float $relative, array $looser = [], string $at = ''): void
    {
        if (\is_array($wanted)) {
            Assert::assertIsArray($got, $at);
            if (array_is_list($wanted)) {
                Assert::assertCount(\count($wanted), $got, $at);
            }
            foreach ($wanted as $key => $w) {
                Assert::assertArrayHasKey($key, $got, $at);
                self::as($w, $got[$key], $relative, $looser, $at.'/'.$key);
            }
        } elseif (\is_float($wanted) || \is_int($wanted)) {
            $own = $relative;
            foreach ($looser as $pattern => $tolerance) {
                $own = 1 === preg_match($pattern, $at) ? $tolerance : $own;
            }
            Assert::assertIsNumeric($got, $at);
            Assert::assertEqualsWithDelta($wanted, $got, $own * abs($wanted) + 1e-12, $at);
        } else {
            Assert::assertSame($wanted, $got, $at);
        }
    }
}
