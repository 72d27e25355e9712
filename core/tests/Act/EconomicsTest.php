<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Act;

use Dokimos\Core\Act\Economics;
use Dokimos\Core\Figure\Figures;
use Dokimos\Core\Random;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Money of one action: where it pays, and that lists and figures that rank know the same. */
final class EconomicsTest extends TestCase
{
    /** @return iterable<string, array{Economics, float}> */
    public static function money(): iterable
    {
        $random = Random::stream(12, 'money');
        for ($k = 0; $k < 25; ++$k) {
            [$cost, $works, $kept, $success, $vain, $value] = Random::shares($random, 6);
            yield "draw $k" => [new Economics(20 * $cost, $works, $kept, 15 * $success, 10 * $vain), 10 + 200 * $value];
        }
    }

    #[DataProvider('money')]
    public function testAnActionPaysFromTheBreakEvenChanceOn(Economics $economics, float $value): void
    {
        $even = $economics->breakEven($value);
        if (null === $even) {
            foreach ([0.0, 0.3, 0.7, 1.0] as $chance) {
                self::assertLessThanOrEqual(1e-12, $economics->expected($chance, $value), 'it never pays');
            }

            return;
        }
        self::assertGreaterThanOrEqual(0.0, $even);
        foreach ([0.01, 0.2, 0.5, 0.9, 1.0] as $chance) {
            $chance > $even
                ? self::assertGreaterThan(0.0, $economics->expected($chance, $value))
                : self::assertLessThanOrEqual(1e-9, $economics->expected($chance, $value));
        }
        // A record is worth more the likelier its event is, and the more there is at stake.
        self::assertGreaterThan($economics->expected(0.3, $value), $economics->expected(0.4, $value));
        self::assertGreaterThanOrEqual($economics->expected(0.3, $value), $economics->expected(0.3, $value + 1));
    }

    #[DataProvider('money')]
    public function testTheFigureThatRanksKnowsTheSameMoney(Economics $economics, float $value): void
    {
        $brought = $economics->works * $economics->prevented($value);
        if ($brought <= 0.0) {
            $this->expectNotToPerformAssertions();

            return;
        }
        $figure = Figures::named(Task::TWO, \sprintf('return:%.10g:%.10g:%.10g', $economics->cost, $brought, $economics->costInVain));
        // Of records with the event for certain, and without it for certain, both say the same.
        foreach ([1.0, 0.0] as $event) {
            $acted = $figure->value([$event, $event], new Answers([1.0, 1.0]));
            $pays = 1.0 >= $economics->breakEven($value);
            self::assertEqualsWithDelta(
                $pays ? 100 * $economics->expected($event, $value) : 0.0,
                $acted,
                1e-4 * (100 + abs((float) $acted)),
            );
        }
        self::assertSame(0.0, $figure->value([1.0, 0.0], new Answers([0.0, 0.0])), 'nobody is acted on');
    }
}
