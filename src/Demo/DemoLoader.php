<?php

declare(strict_types=1);

namespace App\Demo;

use App\Account\Accounts;
use App\Account\User;
use App\Job\Jobs;
use App\Job\Piece;
use App\Job\PieceQueue;
use App\Job\RunPiece;
use App\Job\RunPieceHandler;
use App\Overview\Studies;
use App\Preparation\Variant;
use App\Preparation\Variants;
use App\Question\TargetRequest;
use App\Question\Targets;
use App\Register\Columns;
use App\Source\Upload;
use App\Source\Uploads;
use App\Study\Study;
use App\Table\DataTable;
use App\Table\TableColumn;
use App\Table\Tables;
use App\Trial\TrialPlan;
use App\Trial\Trials;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Learners\Learners;
use Dokimos\Core\Table\ColumnUse;
use Dokimos\Core\Table\Kind;
use Dokimos\Core\Task\Task;

/** Fills an empty installation with the demo: one study to go on with, one that is finished as an example. */
final readonly class DemoLoader
{
    public const LOGIN = 'mara';
    public const PASSWORD = 'ember-walk';

    public function __construct(
        private EntityManagerInterface $entities,
        private Accounts $accounts,
        private Studies $studies,
        private Targets $targets,
        private Uploads $uploads,
        private Tables $tables,
        private Columns $columns,
        private Variants $variants,
        private Trials $trials,
        private PieceQueue $queue,
        private RunPieceHandler $handler,
    ) {
    }

    /** @param \Closure(string): void $say */
    public function load(int $seed, \Closure $say, int $rows = 6000): void
    {
        if (!$this->accounts->isEmpty()) {
            $say('The demo is loaded already.');

            return;
        }
        $user = $this->accounts->add(self::LOGIN, 'Mara Kell', self::PASSWORD, true);
        $first = $this->studies->create($user, 'Return visits', 'Which visits will need a return trip?');
        foreach (GenerateCommand::tables($seed, $rows, new Blemishes()) as $name => $lines) {
            $table = $this->import($first, $user, $name, implode('', iterator_to_array($lines, false)));
            $say(\sprintf('%s: %s × %d', $name, number_format($table->rows()), \count($table->columns())));
        }
        $visits = $this->table($first, 'visits');
        $this->settle($visits, $user);
        $this->targets->choose($first, $user, new TargetRequest('return_visit', 'yes', tableId: $visits->id()));
        $this->prepare($first, $user);
        $say('Return visits: target chosen, variant A prepared');

        $second = $this->studies->create($user, 'Nobody home', 'Which visits will find nobody at home?');
        $copy = $this->import($second, $user, 'visits', implode('', iterator_to_array(VisitGenerator::forPart($seed, 'visits')->visits($rows), false)));
        $this->settle($copy, $user);
        $this->columns->change($this->column($copy, 'return_visit'), $user, null, null, false);
        $this->targets->choose($second, $user, new TargetRequest('outcome', 'no access', tableId: $copy->id()));
        $this->try($second, $user, $this->prepare($second, $user), [Learners::usual(Task::TWO), Learners::withoutColumns()]);
        $say('Nobody home: two trials fitted');

        $third = $this->studies->create($user, 'Minutes on site', 'How long will a visit take?');
        $copy = $this->import($third, $user, 'visits', implode('', iterator_to_array(VisitGenerator::forPart($seed, 'visits')->visits($rows), false)));
        $this->settle($copy, $user);
        $this->columns->change($this->column($copy, 'return_visit'), $user, null, null, false);
        $this->targets->choose($third, $user, new TargetRequest('minutes_on_site', task: Task::NUMBER, tableId: $copy->id()));
        $this->try($third, $user, $this->prepare($third, $user), [Learners::usual(Task::NUMBER), Learners::withoutColumns()]);
        $say('Minutes on site: two trials fitted');
    }

    /** @param list<string> $learners */
    private function try(Study $study, User $user, Variant $variant, array $learners): void
    {
        foreach ($learners as $learner) {
            $this->trials->start($study, $user, new TrialPlan($variant, $learner));
            $this->work(Jobs::LONG);
        }
    }

    private function import(Study $study, User $user, string $name, string $bytes): DataTable
    {
        $upload = $this->uploads->begin($user, $name.'.csv', \strlen($bytes));
        foreach (str_split($bytes, Upload::PIECE) as $i => $piece) {
            $this->uploads->receive($upload, $i * Upload::PIECE, $piece, hash('sha256', $piece));
        }
        $this->tables->import($study, $user, $upload, $name, null);
        $this->work(Jobs::QUICK);

        return $this->table($study, $name);
    }

    private function table(Study $study, string $name): DataTable
    {
        return $this->entities->getRepository(DataTable::class)->findOneBy(['study' => $study, 'name' => $name, 'state' => DataTable::READY]) ?? throw new \RuntimeException(\sprintf('The demo table %s was not imported.', $name));
    }

    private function column(DataTable $table, string $name): TableColumn
    {
        return $table->column($name) ?? throw new \LogicException('No column '.$name);
    }

    private function settle(DataTable $table, User $user): void
    {
        $this->columns->change($this->column($table, 'household_id'), $user, Kind::Identifier, ColumnUse::Key, null);
        $this->columns->change($this->column($table, 'boiler_class'), $user, Kind::Category, null, null);
        foreach (['parts_ordered_after', 'minutes_on_site', 'outcome'] as $late) {
            $this->columns->change($this->column($table, $late), $user, null, null, false);
        }
    }

    private function prepare(Study $study, User $user): Variant
    {
        $variant = $this->variants->of($study)[0];
        $this->variants->change($variant, $user, 'Fill and mark', [
            ['step' => 'set_aside', 'columns' => ['currency', 'depot', 'access_code'], 'note' => 'A constant, a near copy of district, and a code that is mostly missing.'],
            ['step' => 'fill_missing', 'columns' => ['boiler_age'], 'method' => 'median', 'mark' => true],
        ]);

        return $variant;
    }

    /** Does what waits in a lane at once, as a worker would. */
    private function work(string $lane): void
    {
        while (null !== $piece = $this->queue->claim($lane, 'demo')) {
            ($this->handler)(new RunPiece($piece));
            $done = $this->entities->find(Piece::class, $piece);
            if (null !== $done) {
                $this->entities->refresh($done);
            }
        }
    }
}
