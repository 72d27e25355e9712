<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Decide;

use Dokimos\Core\Decide\ColumnMatch;
use Dokimos\Core\Decide\ScoringModel;
use Dokimos\Core\Learn\Logistic\LogisticModel;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Table\Column;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Table\Table;
use Dokimos\Core\Tests\Files;
use Dokimos\Core\Validate\Trying;
use PHPUnit\Framework\TestCase;

final class ScoringModelTest extends TestCase
{
    private static function training(): Table
    {
        mt_srand(21);
        $csv = "age,color,spend,y\n";
        for ($i = 0; $i < 300; ++$i) {
            $age = mt_rand(0, 40);
            $color = ['red', 'green', 'blue'][mt_rand(0, 2)];
            $yes = mt_rand(0, 99) / 100 < 1 / (1 + exp(-(-2 + 0.08 * $age + ('red' === $color ? 1 : 0))));
            $csv .= \sprintf("%s,%s,%s,%s\n", 0 === $i % 9 ? '' : $age, $color, mt_rand(0, 10000) / 100, $yes ? 'yes' : 'no');
        }

        return Files::ofText($csv);
    }

    private static function model(): ScoringModel
    {
        $table = self::training();
        $event = [];
        for ($i = 0; $i < $table->rows; ++$i) {
            $event[] = 'yes' === $table->column('y')->text($i) ? 1.0 : 0.0;
        }
        $raw = $table->without(['y']);

        return (new Trying(
            $raw,
            $raw->names(),
            $event,
            Preparation::fromArray([['step' => 'fill_missing', 'columns' => ['age'], 'mark' => true]]),
            Learners::make('logistic'),
        ))->whole('y', 'yes');
    }

    /** @return array<string, string> */
    private static function match(ScoringModel $model, Table $table): array
    {
        $out = [];
        foreach (ColumnMatch::of($model->asked, array_map(static fn (Column $c) => $c->kind(), $table->columns())) as $line) {
            if (null !== $line['found']) {
                $out[$line['asked']] = $line['found'];
            }
        }

        return $out;
    }

    public function testNewRecordsGetTheSamePreparationAndNoneIsLost(): void
    {
        $model = self::model();
        // Another order, a missing age, a level never seen, a missing spend, an extra column, a name written differently.
        $new = Files::ofText("extra,Color,spend,age\n1,red,10,20\n2,red,10,\n3,violet,10,20\n4,blue,,20\n");
        $lines = $model->score($model->select($new, self::match($model, $new)));
        self::assertCount(4, $lines);
        self::assertNotNull($lines[1]['chance'], 'a missing age is filled as in training');
        self::assertNotNull($lines[2]['chance']);
        self::assertNull($lines[3]['chance']);
        self::assertSame('not scored: spend missing', $lines[3]['why']);
        self::assertSame(
            [['column' => 'color', 'values' => ['violet'], 'rows' => 1]],
            $model->unseen($model->select($new, self::match($model, $new))),
        );
    }

    public function testABatchAndEachRecordAloneAndTheStoredModelGiveTheSameBytes(): void
    {
        $model = self::model();
        $table = self::training();
        $match = self::match($model, $table);
        $batch = $model->score($model->select($table, $match));
        /** @var array<string, mixed> $stored */
        $stored = json_decode(json_encode($model->toArray(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION), true);
        $back = ScoringModel::fromArray($stored);
        foreach ([0, 7, 9, 120, 299] as $row) {
            self::assertSame($batch[$row], $back->score($back->select($table->take([$row]), $match))[0]);
        }
    }

    public function testContributionsAddUpToTheRecordsLogOdds(): void
    {
        $scoring = self::model();
        self::assertInstanceOf(LogisticModel::class, $scoring->model);
        $table = self::training();
        $prepared = $scoring->preparation->apply($scoring->select($table, self::match($scoring, $table)))->table;
        foreach ([0, 1, 50, 299] as $row) {
            $out = $scoring->model->account($prepared, $row);
            self::assertNotNull($out);
            self::assertEqualsWithDelta(
                $scoring->model->linearPredictor($prepared, [$row])[0],
                $out->base + array_sum(array_column($out->columns, 'effect')),
                1e-9,
            );
            self::assertSame(['age', 'age_was_missing', 'color', 'spend'], self::sorted(array_column($out->columns, 'column')));
            self::assertMatchesRegularExpression('/^\S.* \([+−]\d+\.\d\d\)/u', $out->sentence());
        }
    }

    /**
     * @param list<string> $names
     *
     * @return list<string>
     */
    private static function sorted(array $names): array
    {
        sort($names);

        return $names;
    }

    public function testColumnsAreMatchedByNameThenLooselyThenByHand(): void
    {
        $lines = ColumnMatch::of(
            ['a b' => Kind::Number, 'c' => Kind::Number, 'd' => Kind::Category, 'e' => Kind::Date],
            ['A_B' => Kind::Number, 'c' => Kind::Text, 'x' => Kind::Category],
            ['d' => 'x'],
        );
        self::assertSame(['by a similar name', 'by name', 'by hand', 'not there'], array_column($lines, 'how'));
        self::assertStringContainsString('was number at training and is text here', (string) $lines[1]['problem']);
        self::assertStringContainsString('e is not in this table', (string) $lines[3]['problem']);
    }

    public function testAForeignFileIsRefused(): void
    {
        $this->expectException(\UnexpectedValueException::class);
        ScoringModel::fromArray(['schema' => 'something-else']);
    }
}
