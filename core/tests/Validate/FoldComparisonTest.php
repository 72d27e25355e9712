<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Validate;

use Dokimos\Core\Tests\Files;
use Dokimos\Core\Tests\Same;
use Dokimos\Core\Validate\FoldComparison;
use PHPUnit\Framework\TestCase;

final class FoldComparisonTest extends TestCase
{
    public function testTwoModelsOnTheSameFolds(): void
    {
        $table = Files::table(Files::folder('crossval-compare').'/data.csv');
        $ratio = $table->number('n_test')->values[0] / $table->number('n_train')->values[0];
        Same::as(
            Files::expected('crossval-compare'),
            FoldComparison::of($table->number('score_a')->values, $table->number('score_b')->values, $ratio),
            1e-10,
            ['#/p$#' => 1e-8],
        );
        self::assertNull(
            FoldComparison::of([0.5, 0.6], [0.4, 0.5], 0.25)['corrected']['t'] ?? null,
            'the same difference in every fold has no spread to test by',
        );
        $this->expectException(\LengthException::class);
        FoldComparison::of([0.5], [0.4], 0.25);
    }
}
