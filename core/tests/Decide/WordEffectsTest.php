<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Decide;

use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Decide\WordEffect;
use Dokimos\Core\Decide\WordEffects;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\NumberColumn;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Table\TextColumn;
use Dokimos\Core\Task\Task;
use Dokimos\Core\Validate\Trying;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** A text is explained by what its words do to the answers. */
final class WordEffectsTest extends TestCase
{
    /** @return array{Table, list<float>} "late" adds five, "early" takes three, "always" and "sometimes" say nothing */
    private static function notes(): array
    {
        $random = new Randomizer(new Mt19937(3));
        $notes = $km = $y = [];
        for ($i = 0; $i < 600; ++$i) {
            $words = ['always'];
            $late = $random->getInt(0, 3) < 1;
            $early = $random->getInt(0, 2) < 1;
            foreach (['late' => $late, 'early' => $early, 'sometimes' => 0 === $random->getInt(0, 1)] as $word => $stands) {
                $words = [...$words, ...($stands ? [$word] : [])];
            }
            $notes[] = 0 === $i % 40 ? null : implode(' ', $random->shuffleArray($words));
            $km[] = $random->getInt(0, 100) / 10;
            $y[] = $km[$i] + (null !== $notes[$i] ? ($late ? 5.0 : 0.0) - ($early ? 3.0 : 0.0) : 0.0) + $random->getInt(-10, 10) / 10;
        }

        return [Table::of(['note' => new TextColumn($notes), 'km' => new NumberColumn($km)]), $y];
    }

    private static function model(string $as, string $learner, string $kind): ScoringModel
    {
        [$table, $y] = self::notes();
        $classes = [Task::NUMBER => null, Task::TWO => ['no', 'yes'], Task::MORE => ['a', 'b', 'c']][$kind];
        $outcome = array_map(static fn (float $v): float => match ($kind) {
            Task::NUMBER => $v,
            Task::TWO => (float) ($v > 5.0),
            default => $v < 2.0 ? 0.0 : ($v < 7.0 ? 1.0 : 2.0),
        }, $y);
        $steps = [[
            'step' => 'text_terms',
            'column' => 'note',
            'as' => $as,
            'most' => 10,
            'least' => 0.0,
            'up_to' => 1.0,
            'pairs' => false,
            'stop' => false,
        ]];

        return (new Trying(
            $table,
            ['note', 'km'],
            $outcome,
            Preparation::fromArray($steps),
            Learners::make($learner),
            $classes,
        ))->whole('y', 'yes');
    }

    /** @return iterable<string, array{string, string, string, ?int}> as, learner, task, class */
    public static function models(): iterable
    {
        yield 'yes and no, a number' => ['whether it stands there', 'linear', Task::NUMBER, null];
        yield 'counts, a number' => ['how often', 'linear', Task::NUMBER, null];
        yield 'weights, a number' => ['tf-idf weight', 'boosting', Task::NUMBER, null];
        yield 'yes and no, an event' => ['whether it stands there', 'boosting', Task::TWO, null];
        yield 'counts, the highest of several classes' => ['how often', 'multinomial', Task::MORE, 2];
    }

    #[DataProvider('models')]
    public function testTheWordsThatMatterComeFirstWithTheirDirection(string $as, string $learner, string $kind, ?int $class): void
    {
        $model = self::model($as, $learner, $kind);
        [$table] = self::notes();
        $words = WordEffects::of($model, $table->take(range(0, 199)), 'note', $class);
        $by = array_column(array_map(static fn (WordEffect $w): array => [$w->word, $w], $words), 1, 0);
        self::assertStringContainsString('late', $words[0]->word);
        self::assertStringContainsString('early', $words[1]->word);
        self::assertGreaterThan(0.0, $words[0]->moves);
        self::assertLessThan(0.0, $words[1]->moves);
        foreach ($by as $name => $word) {
            self::assertEqualsWithDelta($word->with - $word->without, $word->moves, 1e-9, $name);
            self::assertTrue($word->low <= $word->moves && $word->moves <= $word->high);
            self::assertTrue($word->share >= 0.0 && $word->share <= 1.0);
        }
        if ('linear' === $learner) {
            self::assertEqualsWithDelta(5.0, $words[0]->moves, 0.3);
            self::assertEqualsWithDelta(-3.0, $words[1]->moves, 0.3);
            self::assertEqualsWithDelta(0.25, $words[0]->share, 0.08);
        }
    }

    public function testWhereNothingIsMadeOfTheTextThereIsNothingToTell(): void
    {
        $model = self::model('how often', 'linear', Task::NUMBER);
        [$table] = self::notes();
        self::assertSame([], WordEffects::of($model, $table, 'km', null), 'a number that is read as it came is no text');
        $none = (new Trying($table, ['km'], self::notes()[1], new Preparation([]), Learners::make('linear'), null))->whole('y', '');
        self::assertSame([], WordEffects::of($none, $table, 'note', null));
    }
}
