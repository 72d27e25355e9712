<?php

declare(strict_types=1);

/**
 * make bench-service: how long a service takes to answer behind nginx and php-fpm with 4 processes, at 20 calls a second, a boosted model
 * of 600
 * trees; the floor, an empty answer of PHP, is measured in turn with it. Then 10,000 calls as fast as four callers can, with the version
 * switched
 * twice meanwhile: none may be lost. It has an installation of its own. Needs Debian's php8.2-fpm and nginx-light.
 */
require __DIR__.'/../vendor/autoload.php';
require __DIR__.'/Bench.php';

use App\Benchmarks\Bench;
use App\Tests\Browser\Chrome;
use Symfony\Component\Process\Process;

$root = dirname(__DIR__);
$folder = sys_get_temp_dir().'/dokimos-fpm-'.bin2hex(random_bytes(3));
mkdir($folder.'/public', 0777, true);
$data = $folder.'/data';
$bench = new Bench($root, $data);
mkdir($data);
$console = static fn (string ...$arguments): string => $bench->php(['bin/console', ...$arguments]);
$environment = ['APP_ENV' => 'prod', 'DOKIMOS_DATA' => $data, 'DOKIMOS_DEMO' => '1'];
$console('dokimos:migrate');
$console('dokimos:demo:load');
$pdo = new PDO('sqlite:'.$data.'/dokimos.sqlite');
$fpm = Chrome::freePort();
// Two trials of 600 trees, by the application's own workers.
$bench->serve();
[$preparation] = $bench->api('GET', '/api/studies/1/preparation');
foreach ([2026, 7] as $seed) {
    [$job] = $bench->api('POST', '/api/studies/1/trials', json_encode([
        'variantId' => $preparation['variants'][0]['id'],
        'learner' => 'boosting',
        'settings' => ['trees' => 600, 'patience' => 0, 'seed' => $seed],
    ], \JSON_THROW_ON_ERROR));
    $bench->await($job['id']);
}
$bench->stop();
foreach (['1', '2'] as $trial) {
    $console('dokimos:approve', '1', $trial, '--sentence=Measured.', '--limits=The benchmark.', '--again=2099-01-01');
}
preg_match('/TOKEN=(\S+).*-d \'(.*)\'/s', $console('dokimos:service', 'bench', '--study=1', '--approval=1', '--token=bench'), $found);
[, $token, $record] = $found;
$pdo->exec('UPDATE service_token SET per_minute = 100000, per_day = 10000000');
$user = 0 === posix_geteuid() ? "user = root\ngroup = root\n" : '';
file_put_contents($folder.'/public/empty.php', '<?php echo "{}";');
file_put_contents(
    $folder.'/fpm.conf',
    "[global]\nerror_log = $folder/fpm.log\ndaemonize = no\n[www]\n{$user}listen = 127.0.0.1:$fpm\npm = static\npm.max_children = 4\nclear_env = no\nphp_admin_value[opcache.file_update_protection] = 0\n",
);
$at = "fastcgi_pass 127.0.0.1:$fpm; include /etc/nginx/fastcgi_params; fastcgi_param SCRIPT_FILENAME";
$web = Chrome::freePort();
file_put_contents(
    $folder.'/nginx.conf',
    "daemon off; pid $folder/pid; error_log $folder/nginx.log;".(
        0 === posix_geteuid() ? ' user root;' : ''
    )."\nevents {}\nhttp { access_log off; client_body_temp_path $folder/body; fastcgi_temp_path $folder/fast; proxy_temp_path $folder/proxy; uwsgi_temp_path $folder/uwsgi; scgi_temp_path $folder/scgi;\nserver { listen 127.0.0.1:$web;\nlocation /serve/ { $at $root/public/serve.php; }\nlocation /empty { $at $folder/public/empty.php; } } }",
);
$processes = [
    new Process(['php-fpm8.2', '-y', $folder.'/fpm.conf', '-F', ...(0 === posix_geteuid() ? ['-R'] : [])], $root, $environment, null, null),
    new Process(['nginx', '-c', $folder.'/nginx.conf'], $root, null, null, null),
];
foreach ($processes as $process) {
    $process->disableOutput()->start();
}
sleep(2);
$call = static function (CurlHandle $curl, string $path) use ($web, $token, $record): array {
    curl_setopt_array(
        $curl,
        [
            \CURLOPT_URL => "http://127.0.0.1:$web$path",
            \CURLOPT_RETURNTRANSFER => true,
            \CURLOPT_POSTFIELDS => $record,
            \CURLOPT_HTTPHEADER => ['Authorization: Bearer '.$token],
        ],
    );
    $begun = hrtime(true);
    $text = curl_exec($curl);

    return [(hrtime(true) - $begun) / 1e6, curl_getinfo($curl, \CURLINFO_RESPONSE_CODE), $text];
};
$curl = curl_init();
for ($i = 0; $i < 40; ++$i) {
    $call($curl, '/serve/bench');
}
$times = ['/empty' => [], '/serve/bench' => []];
for ($i = 0; $i < 1200; ++$i) {
    $begun = hrtime(true);
    foreach (array_keys($times) as $path) {
        [$ms, $code, $text] = $call($curl, $path);
        $times[$path][] = $ms;
        if (200 !== $code) {
            exit("A call was answered with $code: $text\n");
        }
    }
    usleep(max(0, 50_000 - (int) ((hrtime(true) - $begun) / 1000)));
}
foreach ($times as $path => $all) {
    sort($all);
    printf(
        "%-14s median %5.1f ms, 95th percentile %5.1f ms, slowest %5.1f ms, of %d calls at 20 a second\n",
        $path,
        $all[600],
        $all[1140],
        $all[1199],
        count($all),
    );
}
$callers = [];
for ($k = 0; $k < 4; ++$k) {
    $callers[] = $own = new Process(
        [
            \PHP_BINARY,
            '-r',
            '[, $url, $token, $body] = $argv; $c = curl_init($url); curl_setopt_array($c, [CURLOPT_RETURNTRANSFER => true, CURLOPT_POSTFIELDS => $body, CURLOPT_HTTPHEADER => ["Authorization: Bearer $token"]]); $seen = []; for ($i = 0; $i < 2500; ++$i) { $said = json_decode((string) curl_exec($c), true); $key = isset($said["chance"]) ? "version ".$said["version"] : "lost"; $seen[$key] = ($seen[$key] ?? 0) + 1; } echo json_encode($seen);',
            "http://127.0.0.1:$web/serve/bench",
            $token,
            $record,
        ],
        null,
        null,
        null,
        900,
    );
    $own->start();
}
$begun = hrtime(true);
foreach ([2, 1] as $approval) {
    sleep(2);
    $console('dokimos:service', 'bench', "--approval=$approval");
}
$seen = [];
foreach ($callers as $own) {
    $own->wait();
    foreach ((array) json_decode($own->getOutput(), true) as $key => $n) {
        $seen[$key] = ($seen[$key] ?? 0) + $n;
    }
}
ksort($seen);
printf("10,000 calls of four callers in %.0f s, switched twice meanwhile: %s\n", (hrtime(true) - $begun) / 1e9, json_encode($seen));
foreach ($processes as $process) {
    $process->stop(2);
}
(new Process(['rm', '-rf', $folder]))->run();
