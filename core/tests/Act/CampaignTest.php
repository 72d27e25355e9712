<?php

declare(strict_types=1);

namespace Dokimos\Core\Tests\Act;

use Dokimos\Core\Act\Campaign;
use Dokimos\Core\Act\Economics;
use Dokimos\Core\Tests\Files;
use Dokimos\Core\Tests\Same;
use PHPUnit\Framework\TestCase;

final class CampaignTest extends TestCase
{
    public function testWhatACampaignBrings(): void
    {
        $table = Files::table(Files::folder('business').'/data.csv');
        $expected = Files::expected('business');
        /** @var array{contact_cost: float, response_rate: float, retained_share: float, offer_cost: float, cost_matrix: array{tp: float, fp: float, fn: float, tn: float}} $p */
        $p = $expected['parameters'];
        unset($expected['parameters']);
        $economics = new Economics($p['contact_cost'], $p['response_rate'], $p['retained_share'], $p['offer_cost']);
        $campaign = new Campaign($economics, $p['cost_matrix']);
        Same::as(
            $expected,
            $campaign->report($table->number('score')->values, $table->number('actual')->values, $table->number('value')->values),
            1e-9,
        );
        self::assertNull($economics->breakEven(17.0), 'the offer costs more than it keeps');
    }
}
