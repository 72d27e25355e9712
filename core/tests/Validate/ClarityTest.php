<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Validate;

use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Random;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\Clarity;
use PHPUnit\Framework\TestCase;

final class ClarityTest extends TestCase
{
    /** @return array{list<float>, list<Answers>} outcomes, and answers that know less and less of them */
    private static function told(int $rows): array
    {
        $random = Random::stream(5, 'clarity');
        $noise = static fn (): float => $random->getInt(0, 1_000_000) / 1_000_000;
        $outcome = $sharp = $fair = $none = [];
        for ($i = 0; $i < $rows; ++$i) {
            $outcome[] = $y = (float) ($i % 2);
            $sharp[] = 0.5 * $y + $noise();
            $fair[] = 0.25 * $y + $noise();
            $none[] = $noise();
        }

        return [$outcome, [new Answers($sharp), new Answers($fair), new Answers($none)]];
    }

    public function testIsWhatTheBestThatCanBeReadLoses(): void
    {
        [$outcome, $answers] = self::told(1500);
        $auc = Figures::named(Task::TWO, 'AUC');
        $values = array_map(static fn (Answers $a): float => $auc->value($outcome, $a) ?? 0.0, $answers);
        $price = Clarity::of($auc, $outcome, $answers, [true, true, true], [false, true, true]);
        self::assertEqualsWithDelta($values[0] - $values[1], $price->value, 0.01);
        self::assertGreaterThan(0.0, $price->low);
        self::assertEquals($price, Clarity::of($auc, $outcome, $answers, [true, true, true], [false, true, true]));
        // The same where less is better: a price is what is lost.
        $loss = Figures::named(Task::TWO, 'Brier');
        $chances = array_map(
            static fn (Answers $a): Answers => new Answers(array_map(static fn (float $v): float => min(1.0, $v / 1.5), $a->values)),
            $answers,
        );
        self::assertGreaterThan(0.0, Clarity::of($loss, $outcome, $chances, [true, false, false], [false, false, true])->value);
    }

    public function testIsNothingWhereTheStrongestCanBeRead(): void
    {
        [$outcome, $answers] = self::told(400);
        $price = Clarity::of(Figures::named(Task::TWO, 'AUC'), $outcome, $answers, [true, false, false], [true, false, false]);
        self::assertSame([0.0, 0.0, 0.0], [$price->value, $price->low, $price->high]);
        self::assertNull(Clarity::of(
            Figures::named(Task::TWO, 'AUC'),
            $outcome,
            $answers,
            [true, true, true],
            [false, false, false],
        )->value);
    }
}
