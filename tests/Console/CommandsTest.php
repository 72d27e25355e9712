<?php

declare(strict_types=1);

namespace App\Tests\Console;

use App\Tests\Fixture;
use DAMA\DoctrineTestBundle\PHPUnit\SkipDatabaseRollback;
use Doctrine\DBAL\Connection;
use Dokimos\Core\Combine\KnownCombinations;
use Dokimos\Core\Table\FrameCodec;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** The core's path without a browser, and the operator's commands, as processes. */
#[SkipDatabaseRollback]
final class CommandsTest extends TestCase
{
    private string $dir;

    public static function setUpBeforeClass(): void
    {
        Fixture::ensure();
    }

    protected function setUp(): void
    {
        $this->dir = sys_get_temp_dir().'/dokimos-'.bin2hex(random_bytes(4));
        mkdir($this->dir);
    }

    protected function tearDown(): void
    {
        Fixture::run(['rm', '-rf', $this->dir]);
    }

    private static function skipOnServer(string $because): void
    {
        if (Fixture::isServer()) {
            self::markTestSkipped($because);
        }
    }

    /** @return iterable<string, array{string, string, string, list<string>}> target, learner, task, heads */
    public static function sures(): iterable
    {
        yield 'an event' => ['gone', 'tree', 'event', ['gone_came_among_similar', 'gone_came_low', 'gone_came_high']];
        yield 'a number' => ['cost', 'tree', 'number', ['cost_low_80', 'cost_high_80', 'cost_low_95', 'cost_high_95']];
        yield 'several classes' => ['kind', 'tree', 'classes', ['kind_set_90']];
    }

    /** @param list<string> $heads */
    #[DataProvider('sures')]
    public function testAScoredListSaysHowSureEachAnswerIs(string $target, string $learner, string $task, array $heads): void
    {
        mt_srand(12);
        $csv = "age,make,gone,cost,kind\n";
        for ($i = 0; $i < 700; ++$i) {
            $age = mt_rand(0, 40);
            $make = ['Orrin', 'Vale'][mt_rand(0, 1)];
            $pull = $age / 10 + ('Vale' === $make ? 1 : 0) + mt_rand(-100, 100) / 50;
            $kind = $pull < 1.5 ? 'leak' : ($pull < 3.5 ? 'noise' : 'heat');
            $csv .= \sprintf("%d,%s,%s,%.2f,%s\n", $age, $make, $pull > 3 ? 'yes' : 'no', 10 * $pull, $kind);
        }
        file_put_contents("$this->dir/a.csv", $csv);
        $others = implode(',', array_diff(['gone', 'cost', 'kind'], [$target]));
        $fit = ['dokimos:fit', "$this->dir/a.csv", "--target=$target", "--learner=$learner", "--task=$task", "--without=$others"];
        $files = ["--out=$this->dir/m.json", "--unseen=$this->dir/u.json", '--folds=4', '--json'];
        Fixture::console([...$fit, ...('event' === $task ? ['--event=yes'] : []), ...$files]);
        $score = ['dokimos:score', "$this->dir/m.json", "$this->dir/a.csv", '--full', '--json'];
        Fixture::console([...$score, "--out=$this->dir/plain.csv"]);
        Fixture::console([...$score, "--out=$this->dir/sure.csv", "--sure=$this->dir/u.json"]);
        $read = fn (string $name): array => array_map(
            static fn (string $l): array => str_getcsv($l, escape: ''),
            explode("\r\n", trim((string) file_get_contents("$this->dir/$name.csv"))),
        );
        [$plain, $sure] = [$read('plain'), $read('sure')];
        self::assertSame($heads, array_values(array_diff($sure[0], $plain[0])));
        self::assertSame($plain[0], array_values(array_diff($sure[0], $heads)), 'everything else is as it was');
        // What was promised is kept, about: these rows the models have seen, and the sets of classes hold more than they must.
        $held = 0;
        foreach (\array_slice($sure, 1) as $line) {
            $line = array_combine(array_map(strval(...), $sure[0]), $line);
            $held += match ($task) {
                'number' => $line['cost_low_80'] <= $line['cost'] && $line['cost'] <= $line['cost_high_80'],
                'event' => $line['gone_came_low'] <= $line['gone_came_among_similar']
                    && $line['gone_came_among_similar'] <= $line['gone_came_high'],
                default => \in_array($line['kind'], explode(' | ', (string) $line['kind_set_90']), true),
            } ? 1 : 0;
        }
        self::assertGreaterThan('number' === $task ? 0.76 : 0.88, $held / 700);
        // Of another model it is refused, and so is what is no such file.
        foreach (['a.csv' => 'holds no answers for unseen records', 'u.json' => 'is of another model'] as $file => $says) {
            $other = [
                '--target='.('cost' === $target ? 'gone' : 'cost'),
                '--without='.$target.',kind',
                "--out=$this->dir/o.json",
                '--json',
            ];
            Fixture::console(['dokimos:fit', "$this->dir/a.csv", ...$other]);
            $ran = Fixture::run(
                [\PHP_BINARY, 'bin/console', 'dokimos:score', "$this->dir/o.json", "$this->dir/a.csv", "--sure=$this->dir/$file"],
                must: false,
            );
            self::assertFalse($ran->isSuccessful());
            self::assertStringContainsString($says, preg_replace('/\s+/', ' ', $ran->getOutput().$ran->getErrorOutput()) ?? '');
        }
    }

    public function testFitScoreAndMeasure(): void
    {
        Fixture::console(['dokimos:demo:generate', '--rows=900', '--dir='.$this->dir]);
        file_put_contents(
            $this->dir.'/steps.json',
            json_encode(
                [['step' => 'fill_missing', 'choose' => ['kinds' => [], 'missing' => true], 'method' => 'median']],
                \JSON_THROW_ON_ERROR,
            ),
        );
        $late = 'parts_ordered_after,minutes_on_site,outcome,visit_id,household_id,currency,access_code,depot';
        $fit = Fixture::console([
            'dokimos:fit',
            $this->dir.'/visits.csv',
            '--target=return_visit',
            '--without='.$late,
            '--kind=boiler_class=category',
            '--preparation='.$this->dir.'/steps.json',
            '--out='.$this->dir.'/model.json',
            '--json',
        ]);
        $report = json_decode($fit->getOutput(), true);
        self::assertSame(900, $report['rows_used']);
        $score = Fixture::console([
            'dokimos:score',
            $this->dir.'/model.json',
            $this->dir.'/visits.csv',
            '--out='.$this->dir.'/scored.csv',
            '--cutoff=0.2',
            '--reasons',
            '--json',
        ]);
        self::assertSame([900, []], [json_decode($score->getOutput(), true)['scored'], json_decode($score->getOutput(), true)['problems']]);
        $scored = (string) file_get_contents($this->dir.'/scored.csv');
        file_put_contents(
            $this->dir.'/truth.csv',
            preg_replace_callback('/,(yes|no)(?=,[\d.e-]+,(?:yes|no),)/', static fn (array $m) => 'yes' === $m[1] ? ',1' : ',0', $scored),
        );
        $measure = Fixture::console([
            'dokimos:measure',
            $this->dir.'/truth.csv',
            '--truth=return_visit',
            '--score=return_visit_chance',
            '--json',
        ]);
        self::assertGreaterThan(0.7, json_decode($measure->getOutput(), true)['return_visit_chance']['roc_auc']);
    }

    public function testErrorsAreOneLineAndANonZeroEnd(): void
    {
        file_put_contents($this->dir.'/a.csv', "x,y\n1,0\n2,1\n");
        file_put_contents($this->dir.'/empty.csv', '');
        foreach ([
            ['dokimos:fit', '/nowhere.csv', '--target=y'],
            ['dokimos:fit', $this->dir.'/a.csv', '--target=z'],
            ['dokimos:profile', $this->dir.'/empty.csv'],
            ['dokimos:score', $this->dir.'/a.csv', $this->dir.'/a.csv'],
            ['dokimos:measure', $this->dir.'/a.csv', '--truth=x'],
            ['dokimos:profile', $this->dir.'/a.csv', '--kind=x=magic'],
        ] as $arguments) {
            $process = Fixture::run([\PHP_BINARY, 'bin/console', ...$arguments], must: false);
            self::assertSame(1, $process->getExitCode(), implode(' ', $arguments));
            self::assertSame(1, substr_count(trim($process->getErrorOutput()), "\n") + 1, $process->getErrorOutput());
            self::assertSame('', $process->getOutput());
        }
    }

    public function testTheDemoIsTheSameByteForByteAndItsBlemishesCanBeLeftOut(): void
    {
        foreach (['one', 'two'] as $run) {
            Fixture::console(['dokimos:demo:generate', '--rows=500', '--dir='.$this->dir.'/'.$run]);
        }
        foreach (['visits', 'bookings', 'visits_recent', 'households'] as $table) {
            self::assertFileEquals($this->dir."/one/$table.csv", $this->dir."/two/$table.csv");
        }
        Fixture::console([
            'dokimos:demo:generate',
            '--rows=500',
            '--only=visits',
            '--without=missing-age,missing-code,missing-channel,constant',
            '--dir='.$this->dir.'/clean',
        ]);
        $columns = json_decode(
            Fixture::console(['dokimos:profile', $this->dir.'/clean/visits.csv', '--json'])->getOutput(),
            true,
        )['columns'];
        self::assertSame(
            [0, 0, 0, 3],
            [
                $columns['boiler_age']['missing'],
                $columns['access_code']['missing'],
                $columns['contact_channel']['missing'],
                $columns['currency']['distinct'],
            ],
        );
        $blemished = json_decode(
            Fixture::console(['dokimos:profile', $this->dir.'/one/visits.csv', '--json'])->getOutput(),
            true,
        )['columns'];
        self::assertSame([2, 1], [$blemished['contact_channel']['missing'], $blemished['currency']['distinct']]);
        self::assertEqualsWithDelta(0.2, $blemished['boiler_age']['missing'] / 500, 0.06);
        self::assertMatchesRegularExpression(
            '/AUC of the true chances 0\.8[0-9]+/',
            Fixture::console(['dokimos:demo:generate', '--rows=6000', '--truth'])->getOutput(),
        );
    }

    public function testABackupRestoredElsewhereHoldsTheSameAndRefusesDamage(): void
    {
        $file = $this->dir.'/backup.sqlite';
        $data = $this->dir.'/elsewhere';
        self::assertStringContainsString('Written and checked', Fixture::console(['dokimos:backup', $file])->getOutput());
        self::assertSame(
            1,
            Fixture::run([\PHP_BINARY, 'bin/console', 'dokimos:backup', $file], must: false)->getExitCode(),
            'an existing file is not overwritten',
        );
        self::assertStringContainsString('Restored', Fixture::console(['dokimos:restore', $file], data: $data)->getOutput());
        self::assertStringContainsString('up to date', Fixture::console(['dokimos:migrate'], data: $data)->getOutput());
        $count = static fn (string $data): int => (int) Fixture::sql($data)->fetchOne('SELECT SUM(LENGTH(bytes)) FROM column_chunk');
        self::assertSame($count($_SERVER['DOKIMOS_DATA']), $count($data));
        file_put_contents($file, 'x', \FILE_APPEND);
        $refused = Fixture::run([\PHP_BINARY, 'bin/console', 'dokimos:restore', $file], data: $data, must: false);
        self::assertSame(1, $refused->getExitCode());
        self::assertStringContainsString('does not match its checksum; nothing was changed', $refused->getOutput());
    }

    /** Writes go on while the copy is made: what is in it must be whole, and score as before. */
    public function testNumbersAndSeveralClassesAreFittedAndScored(): void
    {
        $file = $this->dir.'/more.csv';
        $csv = "size,kind,minutes,outcome\n";
        for ($i = 0; $i < 300; ++$i) {
            $size = ($i * 37) % 60;
            $csv .= \sprintf(
                "%d,%s,%s,%s\n",
                $size,
                ['a', 'b'][$i % 2],
                10 === $i ? '' : 20 + 2 * $size + $i % 3,
                $size < 20 ? 'short' : ($size < 40 ? 'middle' : 'long'),
            );
        }
        file_put_contents($file, $csv);
        $run = function (array $fit, string $carry) use ($file): array {
            /** @var list<string> $fit */
            Fixture::console(['dokimos:fit', $file, '--inputs=size,kind', '--out='.$this->dir.'/m.json', ...$fit]);
            $said = json_decode(
                Fixture::console([
                    'dokimos:score',
                    $this->dir.'/m.json',
                    $file,
                    '--out='.$this->dir.'/s.csv',
                    '--carry='.$carry,
                    '--full',
                    '--json',
                ])->getOutput(),
                true,
            );
            self::assertSame(['rows' => 300, 'scored' => 300, 'problems' => []], $said);

            return array_map(
                static fn (string $l): array => str_getcsv($l, escape: ''),
                file($this->dir.'/s.csv', \FILE_IGNORE_NEW_LINES) ?: [],
            );
        };
        foreach (['linear', 'tree', 'forest', 'boosting', 'baseline'] as $learner) {
            $lines = $run(['--target=minutes', '--task=number', '--learner='.$learner], 'minutes');
            self::assertSame(['minutes', 'minutes_predicted', 'because'], $lines[0]);
            $off = array_sum(array_map(
                static fn (array $l): float => '' === $l[0] ? 0.0 : abs((float) $l[0] - (float) $l[1]),
                \array_slice($lines, 1),
            )) / 299;
            self::assertTrue('baseline' === $learner ? $off > 20 : $off < 16, $learner.' is off by '.$off);
        }
        foreach (['multinomial', 'tree', 'forest', 'boosting'] as $learner) {
            $lines = $run(['--target=outcome', '--learner='.$learner], 'outcome');
            self::assertSame(
                ['outcome', 'outcome_predicted', 'outcome_chance_long', 'outcome_chance_middle', 'outcome_chance_short', 'because'],
                $lines[0],
            );
            self::assertGreaterThan(270, \count(array_filter($lines, static fn (array $l) => $l[0] === $l[1])), $learner);
            self::assertEqualsWithDelta(1.0, (float) $lines[5][2] + (float) $lines[5][3] + (float) $lines[5][4], 1e-12);
        }
    }

    public function testAModelSaysWhatItGoesBy(): void
    {
        $csv = "size,kind,noise,minutes\n";
        for ($i = 0; $i < 400; ++$i) {
            $size = ($i * 37) % 60;
            $csv .= \sprintf("%d,%s,%d,%d\n", $size, ['a', 'b'][$i % 2], ($i * 7919) % 53, 20 + 2 * $size + 15 * ($i % 2));
        }
        file_put_contents($this->dir.'/x.csv', $csv);
        Fixture::console([
            'dokimos:fit',
            $this->dir.'/x.csv',
            '--inputs=size,kind,noise',
            '--out='.$this->dir.'/m.json',
            '--target=minutes',
            '--learner=linear',
            '--set=penalty=lasso',
            '--set=find=yes',
        ]);
        /** @param list<string> $more */
        $ask = fn (array $more): array => (array) json_decode(
            Fixture::console(array_values(['dokimos:explain', $this->dir.'/m.json', $this->dir.'/x.csv', '--json', ...$more]))->getOutput(),
            true,
        );
        $importance = $ask(['--repeats=4']);
        self::assertSame('RMSE', $importance['figure']);
        $lines = array_column($importance['columns'], null, 'column');
        self::assertSame('size', $importance['columns'][0]['column']);
        self::assertGreaterThan(0.0, $lines['size']['ci_low']);
        self::assertEqualsWithDelta(0.0, $lines['noise']['importance'] ?? 0.0, 0.05 * $lines['size']['importance']);
        $explained = $ask(['--repeats=3', '--figure=r2', '--columns=size']);
        self::assertSame('R2', $explained['figure']);
        self::assertGreaterThan(0.5, $explained['columns'][0]['importance'], 'what is lost is positive, though more of it is better');
        $curve = $ask(['--method=dependence', '--columns=size', '--grid=0,30,59', '--single=2'])['partial_dependence']['size'];
        self::assertLessThan($curve['partial_dependence'][2], $curve['partial_dependence'][0]);
        self::assertCount(2, $curve['ice']);
        $both = $ask(['--method=dependence', '--columns=size', '--with=noise', '--grid=0,50'])['partial_dependence'];
        self::assertGreaterThan($both[0][0], $both[1][0]);
        $accounts = $ask(['--method=account', '--rows=3,7'])['accounts'];
        self::assertSame([3, 7], array_column($accounts, 'record'));
        foreach ($accounts as $account) {
            self::assertEqualsWithDelta($account['answer'] - $account['base'], array_sum($account['effects']), 1e-9, 'adds up');
            self::assertSame(['size', 'kind', 'noise'], array_keys($account['effects']));
            // Of a sum of terms each effect is its own, whatever the order; what was not taken has exactly none.
            self::assertEqualsWithDelta(0.0, $account['errors']['size'], 1e-6);
        }
        // Trees that add up are shared out exactly: nothing is drawn, so the seed changes nothing.
        $fit = [
            'dokimos:fit',
            $this->dir.'/x.csv',
            '--target=minutes',
            '--learner=boosting',
            '--set',
            'trees=40',
            '--out='.$this->dir.'/b.json',
            '--json',
        ];
        Fixture::console($fit);
        $exact = [];
        foreach (['1', '2'] as $seed) {
            $asked = [
                'dokimos:explain',
                $this->dir.'/b.json',
                $this->dir.'/x.csv',
                '--method=account',
                '--rows=3,7',
                '--seed='.$seed,
                '--json',
            ];
            $exact[] = $accounts = json_decode(Fixture::console($asked)->getOutput(), true)['accounts'];
            foreach ($accounts as $account) {
                self::assertSame([0.0], array_values(array_unique(array_map(floatval(...), $account['errors']))));
                self::assertEqualsWithDelta($account['answer'] - $account['base'], array_sum($account['effects']), 1e-9);
            }
        }
        self::assertSame($exact[0], $exact[1]);
        $process = Fixture::run(
            [\PHP_BINARY, 'bin/console', 'dokimos:explain', $this->dir.'/m.json', $this->dir.'/x.csv', '--method=account', '--rows=999'],
            must: false,
        );
        self::assertSame('The file has records 1 to 400.', trim($process->getErrorOutput()));
        $process = Fixture::run(
            [\PHP_BINARY, 'bin/console', 'dokimos:explain', $this->dir.'/m.json', $this->dir.'/x.csv', '--columns=no such'],
            must: false,
        );
        self::assertSame(1, $process->getExitCode());
        self::assertSame('The model does not ask for no such.', trim($process->getErrorOutput()));
        $process = Fixture::run(
            [\PHP_BINARY, 'bin/console', 'dokimos:explain', $this->dir.'/m.json', $this->dir.'/x.csv', '--figure=AUC'],
            must: false,
        );
        self::assertSame(
            'There is no figure "AUC"; there are RMSE, MAE, R2, within 50%, within 90%, bias.',
            trim($process->getErrorOutput()),
        );
    }

    public function testABackupDuringAnImportIsWholeAndScoresTheSame(): void
    {
        $data = $this->dir.'/data';
        Fixture::copy($data);
        Fixture::console(['dokimos:demo:generate', '--rows=120000', '--only=visits', '--dir='.$this->dir]);
        $database = Fixture::sql($data);
        $bytes = (int) filesize($this->dir.'/visits.csv');
        $database->executeStatement("INSERT INTO upload (user_id, file_name, size, received, created_at) VALUES (1, 'visits.csv', $bytes, $bytes, '2026-01-01 00:00:00')");
        $upload = $database->lastInsertId();
        @mkdir($data.'/uploads');
        copy($this->dir.'/visits.csv', $data.'/uploads/'.$upload.'.part');
        $database->executeStatement("INSERT INTO data_table (state, row_count, fingerprint, repairs, imported_at, name, file_name, bytes, dialect, edition, study_id) VALUES ('importing', 0, '', '[]', '2026-01-01 00:00:00', 'large', 'visits.csv', $bytes, '{}', 1, 1)");
        $table = $database->lastInsertId();
        $database->executeStatement("INSERT INTO job (study_id, user_id, kind, subject, title, pieces, state, cancel_requested, created_at) VALUES (1, 1, 'import', $table, 'large', 2, 'waiting', FALSE, '2026-01-01 00:00:00')");
        $job = $database->lastInsertId();
        foreach (['columns 0' => '"share":0,"of":1', 'source' => '"x":1'] as $key => $payload) {
            $database->executeStatement(
                "INSERT INTO job_piece (job_id, piece_key, lane, payload, state, attempts, share) VALUES ($job, '$key', 'long', '{\"upload\":$upload,
                $payload}', 'waiting', 0, 0)",
            );
        }
        $worker = new \Symfony\Component\Process\Process(
            [\PHP_BINARY, 'bin/console', 'messenger:consume', 'long', '--sleep=0.1', '--time-limit=120'],
            \dirname(__DIR__, 2),
            ['APP_ENV' => 'test'] + Fixture::at($data),
        );
        $worker->start();
        $chunks = static fn (Connection $d): int => (int) $d->fetchOne("SELECT COUNT(*) FROM column_chunk WHERE table_id = $table");
        for ($i = 0; $i < 600 && 0 === $chunks($database); ++$i) {
            usleep(20000);
        }
        Fixture::console(['dokimos:backup', $this->dir.'/live.sqlite'], data: $data);
        self::assertSame('importing', $database->fetchOne("SELECT state FROM data_table WHERE id = $table"), 'the import was under way');
        $worker->stop(5);
        $elsewhere = $this->dir.'/elsewhere';
        Fixture::console(['dokimos:restore', $this->dir.'/live.sqlite'], data: $elsewhere);
        // The half-imported table goes once its job is over; everything else is as it was.
        $restored = Fixture::sql($elsewhere);
        $restored->executeStatement("UPDATE job SET state = 'cancelled' WHERE id = $job");
        self::assertStringContainsString(
            '1 unfinished imports cleared away',
            Fixture::console(['dokimos:migrate'], data: $elsewhere)->getOutput(),
        );
        self::assertSame(0, $chunks($restored));
        $score = function (string $data, string $name): string {
            $model = Fixture::sql($data)->fetchOne('SELECT m.document FROM trial t JOIN fitted_model m ON m.id = t.fitted_id WHERE t.number = 1 LIMIT 1');
            file_put_contents($this->dir."/$name.json", $model);
            Fixture::console([
                'dokimos:score',
                $this->dir."/$name.json",
                $this->dir.'/visits.csv',
                '--out='.$this->dir."/$name.csv",
                '--carry=visit_id',
                '--kind=boiler_class=category',
            ]);

            return (string) hash_file('sha256', $this->dir."/$name.csv");
        };
        self::assertSame($score($_SERVER['DOKIMOS_DATA'], 'before'), $score($elsewhere, 'after'));
    }

    public function testAccountsWorkWithoutMail(): void
    {
        $data = $this->dir.'/data';
        Fixture::console(['dokimos:migrate'], data: $data);
        self::assertStringContainsString(
            'nils can sign in',
            Fixture::console(['dokimos:user:add', 'nils', 'Nils Ode'], "a-long-password\n", $data)->getOutput(),
        );
        self::assertStringContainsString(
            'changed',
            Fixture::console(['dokimos:user:password', 'nils'], "another-password\n", $data)->getOutput(),
        );
        self::assertStringContainsString('disabled', Fixture::console(['dokimos:user:disable', 'nils'], null, $data)->getOutput());
        $short = Fixture::run([\PHP_BINARY, 'bin/console', 'dokimos:user:add', 'kim', 'Kim'], "short\n", $data, false);
        self::assertSame([1, 'A password has at least 10 characters.'], [$short->getExitCode(), trim($short->getOutput())]);
    }

    public function testAFilledDatabaseOfTheFirstVersionIsUpgradedWithNothingLost(): void
    {
        self::skipOnServer('a server holds installations from a later version on; StoreTest upgrades it from its first');
        $data = $this->dir.'/data';
        Fixture::console(['doctrine:migrations:migrate', 'App\\Migrations\\Version20261123000001', '-n'], data: $data);
        $database = new \SQLite3($data.'/dokimos.sqlite');
        $database->exec("ATTACH '{$_SERVER['DOKIMOS_DATA']}/dokimos.sqlite' AS filled");
        $database->createFunction('plainly', static fn (string $bytes): string => base64_encode((string) gzinflate($bytes)));
        $tables = [
            'account_user',
            'study',
            'study_member',
            'data_table',
            'table_column',
            'column_chunk',
            'source_block',
            'variant',
            'trial',
            'log_entry',
        ];
        $count = static fn (): array => array_map(static fn (string $t) => $database->querySingle("SELECT COUNT(*) FROM main.$t"), $tables);
        foreach ($tables as $table) {
            $columns = [];
            for ($rows = $database->query("PRAGMA main.table_info($table)"); false !== $rows && false !== $row = $rows->fetchArray(\SQLITE3_ASSOC);) {
                $columns[] = '"'.$row['name'].'"';
            }
            $result = static fn (string $what): string => "(SELECT $what FROM filled.trial_result r WHERE r.id = result_id)";
            $asked = static fn (array $names): array => array_combine(
                array_map(static fn (string $n): string => "\"$n\"", $names),
                array_map(static fn (string $n): string => "(SELECT \"$n\" FROM filled.question q WHERE q.id = filled.study.id)", $names),
            );
            $from = strtr(
                implode(',', $columns),
                'study' !== $table ? [] : $asked(['target', 'event', 'task', 'classes', 'plan', 'sealed', 'table_id', 'seal_opened_at']),
            );
            $from = strtr(
                $from,
                ['"model"' => '(SELECT document FROM filled.fitted_model m WHERE m.id = fitted_id)'] + ('trial' === $table ? [
                    '"figures"' => $result("json_set(figures, '$.answeredRepeats', repeats)"),
                    '"chances"' => $result('plainly(answers)'),
                    '"sealed_figures"' => $result('sealed_figures'),
                ] : []),
            );
            $database->exec(\sprintf('INSERT INTO main.%1$s (%2$s) SELECT %3$s FROM filled.%1$s', $table, implode(',', $columns), $from));
        }
        $before = $count();
        self::assertNotContains(0, $before);
        // A batch as it was kept then: all its records in one value.
        $lines = [
            ['chance' => 0.125, 'why' => null, 'reasons' => 'slot late'],
            ['chance' => null, 'why' => 'not scored: slot missing', 'reasons' => ''],
            ['chance' => 0.7345678901234567, 'why' => null, 'reasons' => ''],
        ];
        $result = base64_encode((string) gzdeflate(json_encode($lines, \JSON_THROW_ON_ERROR)));
        $database->exec("INSERT INTO main.scoring (state, result, scored, called, created_at, matching, cutoff, study_id, trial_id, table_id) SELECT 'done', '$result', 2, 1, '2026-01-01', '{}', 0.2, study_id, id, (SELECT MIN(id) FROM main.data_table) FROM main.trial LIMIT 1");
        $said = Fixture::console(['dokimos:migrate'], data: $data)->getOutput();
        self::assertStringContainsString('Backed up to', $said);
        self::assertStringContainsString('every reference checked', $said);
        $frames = $this->scoredFrames($database);
        self::assertSame(
            ['0.125', 'NAN', '0.7345678901234567'],
            array_map(static fn (float $v): string => is_nan($v) ? 'NAN' : var_export($v, true), $frames[0]),
        );
        self::assertSame([['slot late', null, ''], [null, 'not scored: slot missing', null]], [$frames[1], $frames[2]]);
        $database->exec("DELETE FROM main.table_column WHERE table_id = (SELECT answers_id FROM main.scoring); DELETE FROM main.column_chunk WHERE table_id = (SELECT answers_id FROM main.scoring); DELETE FROM main.data_table WHERE state = 'scored'");
        self::assertSame($before, $count());
        $asks = static fn (string $of): string => md5(var_export(
            $database->querySingle("SELECT group_concat(coalesce(target, '') || coalesce(event, '') || coalesce(\"plan\", '') || coalesce(sealed, '') || coalesce(table_id, '')) FROM $of.question ORDER BY id"),
            true,
        ));
        self::assertSame($asks('filled'), $asks('main'));
        foreach (['plainly(r.answers)', 'r.width', 'r.repeats', "coalesce(t.opening, '')", 't.line'] as $what) {
            $kept = static fn (string $of): string => md5(var_export(
                $database->querySingle("SELECT group_concat($what) FROM $of.trial t JOIN $of.trial_result r ON r.id = t.result_id ORDER BY t.id"),
                true,
            ));
            self::assertSame($kept('filled'), $kept('main'), $what);
        }
        $models = static fn (string $of): mixed => $database->querySingle("SELECT group_concat(m.document) FROM $of.trial t JOIN $of.fitted_model m ON m.id = t.fitted_id ORDER BY t.id");
        self::assertSame($models('filled'), $models('main'));
        self::assertSame(0, $database->querySingle('SELECT COUNT(*) FROM main.account_invitation'));
        self::assertCount(1, glob($data.'/backups/*.sqlite') ?: []);
    }

    /** @return array{list<float>, list<?string>, list<?string>} chance, why and why not of the one batch there is */
    private function scoredFrames(\SQLite3 $database): array
    {
        $bytes = static function (int $position) use ($database): string {
            $found = $database->querySingle("SELECT c.bytes FROM main.column_chunk c JOIN main.scoring s ON s.answers_id = c.table_id WHERE c.position = $position");

            return \is_string($found) ? $found : '';
        };

        return [FrameCodec::numbers($bytes(0), 3), FrameCodec::texts($bytes(1), 3), FrameCodec::texts($bytes(2), 3)];
    }

    public function testHowATableWasMadeIsReadAfterItsWordsChanged(): void
    {
        self::skipOnServer('no server held an installation of that version');
        $data = $this->dir.'/data';
        Fixture::console(['doctrine:migrations:migrate', 'App\\Migrations\\Version20261129000015', '-n'], data: $data);
        $database = new \SQLite3($data.'/dokimos.sqlite');
        $database->exec('INSERT INTO combination (table_id, source_id, recipe) VALUES (2, 1, \'{"recipe":"gather","key":"house","figures":[{"how":"count"}]}\')');
        Fixture::console(['doctrine:migrations:migrate', 'App\\Migrations\\Version20261129000016', '-n'], data: $data);
        $kept = $database->querySingle('SELECT combination FROM combination');
        self::assertIsString($kept);
        self::assertSame(
            'gathers the records of each house: records',
            KnownCombinations::fromArray((array) json_decode($kept, true, 8, \JSON_THROW_ON_ERROR))->sentence(),
        );
    }

    public function testANewerDatabaseIsRefused(): void
    {
        $data = $this->dir.'/data';
        Fixture::console(['dokimos:migrate'], data: $data);
        Fixture::sql($data)->executeStatement("INSERT INTO doctrine_migration_versions (version) VALUES ('App\\Migrations\\Version29991231000000')");
        $process = Fixture::run([\PHP_BINARY, 'bin/console', 'dokimos:migrate'], data: $data, must: false);
        self::assertSame(1, $process->getExitCode());
        self::assertStringContainsString('newer version', $process->getOutput());
    }

    public function testAKilledWorkerLosesOnePieceAndARestartGoesOn(): void
    {
        $data = $this->dir.'/data';
        Fixture::copy($data);
        $database = Fixture::sql($data);
        $database->executeStatement("INSERT INTO job (study_id, user_id, kind, subject, title, pieces, state, cancel_requested, created_at) SELECT study_id, 1, 'trial', id, 'again', 11, 'waiting', FALSE, '2026-01-01 00:00:00' FROM trial WHERE number = 1 LIMIT 1");
        $job = $database->lastInsertId();
        $database->executeStatement("UPDATE trial SET state = 'waiting', line = NULL, result_id = NULL, fitted_id = NULL WHERE id = (SELECT subject FROM job WHERE id = $job)");
        foreach (['r0f0', 'r0f1', 'r0f2', 'r0f3', 'r0f4', 'r1f0', 'r1f1', 'r1f2', 'r1f3', 'r1f4', 'whole'] as $key) {
            $payload = 'whole' === $key ? '[]' : json_encode(['repeat' => (int) $key[1], 'fold' => (int) $key[3]], \JSON_THROW_ON_ERROR);
            $database->executeStatement("INSERT INTO job_piece (job_id, piece_key, lane, payload, state, attempts, share) VALUES ($job, '$key', 'long', '$payload', 'waiting', 0, 0)");
        }
        $worker = static fn (): \Symfony\Component\Process\Process => new \Symfony\Component\Process\Process(
            [\PHP_BINARY, 'bin/console', 'messenger:consume', 'long', '--sleep=0.1', '--time-limit=60'],
            \dirname(__DIR__, 2),
            ['APP_ENV' => 'test'] + Fixture::at($data),
        );
        $running = static fn (): int => (int) $database->fetchOne("SELECT COUNT(*) FROM job_piece WHERE job_id = $job AND state = 'running'");
        $first = $worker();
        $first->start();
        for ($i = 0; $i < 300 && 0 === $running(); ++$i) {
            usleep(20000);
        }
        $first->signal(\SIGKILL);
        $first->wait();
        // Leases run out after 20 s; the test does not wait for that.
        $database->executeStatement('UPDATE job_piece SET lease_until = 1 WHERE state = \'running\'');
        $two = [$worker(), $worker()];
        foreach ($two as $w) {
            $w->start();
        }
        for ($i = 0; $i < 600 && 'done' !== $database->fetchOne("SELECT state FROM job WHERE id = $job"); ++$i) {
            usleep(100000);
        }
        foreach ($two as $w) {
            $w->stop(3);
        }
        self::assertSame('done', $database->fetchOne("SELECT state FROM job WHERE id = $job"));
        $answers = static function (string $data, string $which): string {
            $sql = 'SELECT r.answers, r.figures FROM trial t JOIN trial_result r ON r.id = t.result_id WHERE t.id = ';
            [$bytes, $figures] = Fixture::sql($data)->fetchNumeric($sql.$which) ?: [null, ''];

            return (\is_resource($bytes) ? (string) stream_get_contents($bytes) : (string) $bytes).$figures;
        };
        $again = $answers($data, "(SELECT subject FROM job WHERE id = $job)");
        self::assertGreaterThan(1000, \strlen($again));
        self::assertSame(
            $answers($_SERVER['DOKIMOS_DATA'], '(SELECT id FROM trial WHERE number = 1 LIMIT 1)'),
            $again,
            'the same bytes with two workers, any order, JIT or not',
        );
    }

    /** Fitted, taken away in each form with its proof, and run inside a database, all from files. */
    public function testAModelLeavesAndScoresInsideADatabase(): void
    {
        mt_srand(5);
        $csv = "id,age,make,gone\n";
        for ($i = 0; $i < 500; ++$i) {
            $age = mt_rand(0, 40);
            $make = ['Orrin', 'Vale'][mt_rand(0, 1)];
            $csv .= \sprintf(
                "N%d,%s,%s,%s\n",
                $i,
                0 === $i % 11 ? '' : $age,
                $make,
                $age / 10 + mt_rand(-100, 100) / 80 > 2 ? 'yes' : 'no',
            );
        }
        file_put_contents("$this->dir/a.csv", $csv);
        Fixture::console(
            ['dokimos:fit', "$this->dir/a.csv", '--target=gone', '--learner=boosting', '--without=id', "--out=$this->dir/m.json", '--json'],
        );
        foreach ([
            'json' => '{"schema":"dokimos-program/1"',
            'onnx' => "\x08",
            'sql-sqlite' => '-- Predicts gone',
            'sql-postgresql' => '-- Predicts gone',
        ] as $form => $begins) {
            $said = (array) json_decode(
                Fixture::console(
                    ['dokimos:take-away', "$this->dir/m.json", "$this->dir/a.csv", "--as=$form", "--out=$this->dir/away", '--json'],
                )->getOutput(),
                true,
            );
            self::assertTrue($said['proof']['holds'] ?? false, $form);
            self::assertStringStartsWith($begins, (string) file_get_contents("$this->dir/away"));
        }
        $pdo = new \PDO("sqlite:$this->dir/company.sqlite");
        $pdo->exec('CREATE TABLE visits (id TEXT, age REAL, make TEXT)');
        foreach (\array_slice(explode("\n", trim($csv)), 1) as $line) {
            [$id, $age, $make] = explode(',', $line);
            $pdo->prepare('INSERT INTO visits VALUES (?, ?, ?)')->execute([$id, '' === $age ? null : (float) $age, $make]);
        }
        $inside = [
            'dokimos:score-inside',
            "$this->dir/m.json",
            "sqlite:$this->dir/company.sqlite",
            '--from=visits',
            '--into=scored',
            '--key=id',
            '--json',
        ];
        $said = (array) json_decode(Fixture::console($inside)->getOutput(), true);
        self::assertSame([500, true], [$said['rows'] ?? 0, $said['proof']['holds'] ?? false]);
        Fixture::console(['dokimos:score', "$this->dir/m.json", "$this->dir/a.csv", '--full', "--out=$this->dir/s.csv", '--json']);
        $own = array_map(
            static fn (string $l): array => str_getcsv($l, escape: ''),
            \array_slice(explode("\r\n", trim((string) file_get_contents("$this->dir/s.csv"))), 1),
        );
        $answer = $pdo->query('SELECT id, chance FROM scored');
        self::assertInstanceOf(\PDOStatement::class, $answer);
        $there = $answer->fetchAll(\PDO::FETCH_KEY_PAIR);
        foreach ($own as $line) {
            self::assertEqualsWithDelta((float) $line[4], (float) $there[$line[0] ?? ''], 1e-9);
        }
        $again = Fixture::run([\PHP_BINARY, 'bin/console', ...$inside], must: false);
        self::assertStringContainsString('already exists', $again->getOutput().$again->getErrorOutput());
        self::assertSame(1, $again->getExitCode());
    }
}
