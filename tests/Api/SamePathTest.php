<?php

declare(strict_types=1);

namespace App\Tests\Api;

use App\CommandLine\FitCommand;
use App\CommandLine\ScoreCommand;
use App\Trial\Trial;
use PHPUnit\Framework\Attributes\DataProvider;
use Symfony\Component\Console\Tester\CommandTester;

/** The application and the command line fit and score by one path: the same model and the same list, byte for byte. */
final class SamePathTest extends ApiTestCase
{
    /** @return iterable<string, array{string, string, array<string, mixed>, array<string, mixed>}> */
    public static function learners(): iterable
    {
        $targets = [
            'event' => ['column' => 'again', 'task' => 'two classes', 'event' => 'yes'],
            'classes' => ['column' => 'kind', 'task' => 'several classes'],
            'number' => ['column' => 'minutes', 'task' => 'number'],
        ];
        foreach ([
            'logistic' => ['event'],
            'multinomial' => ['classes'],
            'linear' => ['number'],
            'tree' => ['event', 'classes', 'number'],
            'rules' => ['event', 'classes'],
            'forest' => ['event', 'classes', 'number'],
            'boosting' => ['event', 'classes', 'number'],
            'baseline' => ['event', 'classes', 'number'],
        ] as $learner => $tasks) {
            foreach ($tasks as $task) {
                yield "$learner, $task" => [$learner, $task, $targets[$task], match ($learner) {
                    'forest' => ['trees' => 6],
                    'boosting' => ['trees' => 15],
                    default => [],
                }];
            }
        }
        yield 'balanced boosting, event' => ['boosting', 'event', $targets['event'], ['trees' => 15, 'balance' => 'weighted up']];
        yield 'balanced logistic, event' => ['logistic', 'event', $targets['event'], ['balance' => 'frequent ones thinned out']];
    }

    /**
     * @param array<string, mixed> $target
     * @param array<string, mixed> $settings
     */
    #[DataProvider('learners')]
    public function testOneModelAndOneList(string $learner, string $task, array $target, array $settings): void
    {
        $this->signIn();
        mt_srand(21);
        $lines = ['area,size,note,weight,again,kind,minutes'];
        for ($i = 0; $i < 300; ++$i) {
            $size = mt_rand(1, 900) / 10;
            $lines[] = implode(
                ',',
                [
                    ['north', 'south', 'west'][mt_rand(0, 2)],
                    0 === $i % 13 ? '' : $size,
                    'about '.['a valve', 'the pump', 'no heat'][mt_rand(0, 2)].' again',
                    mt_rand(1, 3),
                    mt_rand(0, 99) < 20 + $size / 2 ? 'yes' : 'no',
                    'abc'[min(2, intdiv((int) $size, 30))],
                    20 + (int) $size + mt_rand(0, 9),
                ],
            );
        }
        $folder = sys_get_temp_dir().'/dokimos-same-'.bin2hex(random_bytes(4));
        mkdir($folder);
        file_put_contents($folder.'/all.csv', implode("\n", $lines)."\n");
        $study = $this->call(
            'POST',
            '/api/studies',
            ['name' => 'Same', 'question' => 'The same?', 'uploadId' => $this->upload(implode("\n", $lines)."\n", 'all.csv')],
            201,
        )['id'];
        $this->work();
        $table = $this->call('GET', "/api/studies/$study")['tableId'];
        $columns = array_column($this->call('GET', "/api/tables/$table")['columns'], null, 'name');
        $uses = ['weight' => 'weight'] + array_fill_keys(array_diff(['again', 'kind', 'minutes'], [$target['column']]), 'set aside');
        foreach ($uses as $name => $use) {
            $this->call(
                'PATCH',
                '/api/columns/'.$columns[$name]['id'],
                ['use' => $use],
                200,
                ['If-Match' => (string) $columns[$name]['version']],
            );
        }
        $this->call(
            'PUT',
            "/api/studies/$study/target",
            $target + ['sealedShare' => 0.0, 'folds' => 2, 'repeats' => 1],
            200,
            ['If-Match' => (string) $this->call('GET', "/api/studies/$study")['version']],
        );
        $variant = $this->call('GET', "/api/studies/$study/preparation")['variants'][0];
        $steps = [
            ['step' => 'fill_missing', 'columns' => ['size'], 'method' => 'median', 'mark' => true],
            ['step' => 'text_terms', 'column' => 'note', 'terms' => 2],
        ];
        $this->call('PUT', '/api/variants/'.$variant['id'], ['steps' => $steps], 200, ['If-Match' => (string) $variant['version']]);
        $id = $this->call(
            'POST',
            "/api/studies/$study/trials",
            ['variantId' => $variant['id'], 'learner' => $learner, 'settings' => $settings],
            202,
        )['subject'];
        $this->work();
        $trial = $this->entities()->find(Trial::class, $id);
        self::assertNotNull($trial);
        self::assertSame([Trial::DONE, null], [$trial->state(), $trial->failure()]);
        $flags = \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION;

        file_put_contents($folder.'/steps.json', json_encode($steps, $flags));
        $fit = new CommandTester($this->service(FitCommand::class));
        $given = array_map(
            static fn (string $name, mixed $value): string => $name.'='.(\is_scalar($value) ? $value : ''),
            array_keys($settings),
            $settings,
        );
        $fit->execute([
            'file' => $folder.'/all.csv',
            '--target' => $target['column'],
            '--task' => $task,
            '--learner' => $learner,
            '--without' => 'again,kind,minutes',
            '--weight' => 'weight',
            '--preparation' => $folder.'/steps.json',
            '--out' => $folder.'/model.json',
            '--set' => $given,
        ] + ('event' === $task ? ['--event' => 'yes'] : []));
        $fit->assertCommandIsSuccessful($fit->getDisplay());
        $own = json_encode($trial->model(), $flags);
        $other = json_encode(json_decode((string) file_get_contents($folder.'/model.json'), true), $flags);
        self::assertTrue(
            $own === $other,
            substr((string) $own, $at = max(0, strspn($own ^ $other, "\0") - 80), 200)."\n".substr((string) $other, $at, 200),
        );

        $batch = $this->call(
            'POST',
            "/api/studies/$study/scorings",
            ['trialId' => $id, 'tableId' => $table, 'cutoff' => 0.4],
            202,
        )['subject'];
        $this->work();
        $score = new CommandTester($this->service(ScoreCommand::class));
        foreach (['', '&full=1'] as $full) {
            $this->client->request('GET', "/api/scorings/$batch/file?carry[]=area&carry[]=size$full");
            $list = (string) $this->client->getInternalResponse()->getContent();
            $score->execute([
                'model' => $folder.'/model.json',
                'file' => $folder.'/all.csv',
                '--out' => $folder.'/list.csv',
                '--carry' => 'area,size',
                '--cutoff' => '0.4',
                '--status' => 'draft',
                '--reasons' => true,
            ] + ('' === $full ? [] : ['--full' => true]));
            self::assertSame($list, (string) file_get_contents($folder.'/list.csv'));
        }
        self::assertSame(301, substr_count($list, "\n"));
        array_map(unlink(...), glob($folder.'/*') ?: []);
        rmdir($folder);
    }
}
