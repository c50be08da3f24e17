namespace Jugaad.Core.Trade;

/// <summary>
/// The regions of ISO 3166-2 by country, as kept lists: a code and a name each, in the order of the names.
/// </summary>
internal static class RegionTable
{
    internal static readonly (string Country, bool ByCode, string Rows)[] Countries =
    [
        (
            "AU",
            true,
            "ACT Australian Capital Territory; NSW New South Wales; NT Northern Territory; QLD Queensland; SA South Australia; "
                + "TAS Tasmania; VIC Victoria; WA Western Australia"
        ),
        (
            "BR",
            true,
            "AC Acre; AL Alagoas; AP Amapá; AM Amazonas; BA Bahia; CE Ceará; DF Distrito Federal; ES Espírito Santo; GO Goiás; "
                + "MA Maranhão; MT Mato Grosso; MS Mato Grosso do Sul; MG Minas Gerais; PA Pará; PB Paraíba; PR Paraná; PE Pernambuco; "
                + "PI Piauí; RJ Rio de Janeiro; RN Rio Grande do Norte; RS Rio Grande do Sul; RO Rondônia; RR Roraima; "
                + "SC Santa Catarina; SP São Paulo; SE Sergipe; TO Tocantins"
        ),
        (
            "CA",
            true,
            "AB Alberta; BC British Columbia; MB Manitoba; NB New Brunswick; NL Newfoundland and Labrador; "
                + "NT Northwest Territories; NS Nova Scotia; NU Nunavut; ON Ontario; PE Prince Edward Island; QC Québec; "
                + "SK Saskatchewan; YT Yukon"
        ),
        (
            "IN",
            false,
            "AN Andaman and Nicobar Islands; AP Andhra Pradesh; AR Arunachal Pradesh; AS Assam; BR Bihar; CH Chandigarh; "
                + "CG Chhattisgarh; DH Dadra and Nagar Haveli and Daman and Diu; DL Delhi; GA Goa; GJ Gujarat; HR Haryana; "
                + "HP Himachal Pradesh; JK Jammu and Kashmir; JH Jharkhand; KA Karnataka; KL Kerala; LA Ladakh; LD Lakshadweep; "
                + "MP Madhya Pradesh; MH Maharashtra; MN Manipur; ML Meghalaya; MZ Mizoram; NL Nagaland; OD Odisha; PY Puducherry; "
                + "PB Punjab; RJ Rajasthan; SK Sikkim; TN Tamil Nadu; TS Telangana; TR Tripura; UP Uttar Pradesh; UK Uttarakhand; "
                + "WB West Bengal"
        ),
        (
            "MX",
            false,
            "AGU Aguascalientes; BCN Baja California; BCS Baja California Sur; CAM Campeche; CHP Chiapas; CHH Chihuahua; "
                + "CMX Ciudad de México; COA Coahuila de Zaragoza; COL Colima; DUR Durango; GUA Guanajuato; GRO Guerrero; HID Hidalgo; "
                + "JAL Jalisco; MEX México; MIC Michoacán de Ocampo; MOR Morelos; NAY Nayarit; NLE Nuevo León; OAX Oaxaca; PUE Puebla; "
                + "QUE Querétaro; ROO Quintana Roo; SLP San Luis Potosí; SIN Sinaloa; SON Sonora; TAB Tabasco; TAM Tamaulipas; "
                + "TLA Tlaxcala; VER Veracruz de Ignacio de la Llave; YUC Yucatán; ZAC Zacatecas"
        ),
        (
            "US",
            true,
            "AL Alabama; AK Alaska; AS American Samoa; AZ Arizona; AR Arkansas; CA California; CO Colorado; CT Connecticut; "
                + "DE Delaware; DC District of Columbia; FL Florida; GA Georgia; GU Guam; HI Hawaii; ID Idaho; IL Illinois; IN Indiana; "
                + "IA Iowa; KS Kansas; KY Kentucky; LA Louisiana; ME Maine; MD Maryland; MA Massachusetts; MI Michigan; MN Minnesota; "
                + "MS Mississippi; MO Missouri; MT Montana; NE Nebraska; NV Nevada; NH New Hampshire; NJ New Jersey; NM New Mexico; "
                + "NY New York; NC North Carolina; ND North Dakota; MP Northern Mariana Islands; OH Ohio; OK Oklahoma; OR Oregon; "
                + "PA Pennsylvania; PR Puerto Rico; RI Rhode Island; SC South Carolina; SD South Dakota; TN Tennessee; TX Texas; "
                + "UM United States Minor Outlying Islands; UT Utah; VT Vermont; VI Virgin Islands; VA Virginia; WA Washington; "
                + "WV West Virginia; WI Wisconsin; WY Wyoming"
        ),
    ];

    /// <summary>
    /// What else people write, in plain small letters: short and former names, and codes of before they were changed.
    /// </summary>
    internal static readonly Dictionary<(string Country, string Text), string> OtherNames = new()
    {
        [("CA", "newfoundland")] = "NL",
        [("CA", "pei")] = "PE",
        [("CA", "yukon territory")] = "YT",
        [("IN", "ct")] = "CG",
        [("IN", "or")] = "OD",
        [("IN", "tg")] = "TS",
        [("IN", "ut")] = "UK",
        [("IN", "chattisgarh")] = "CG",
        [("IN", "orissa")] = "OD",
        [("IN", "uttaranchal")] = "UK",
        [("IN", "pondicherry")] = "PY",
        [("IN", "new delhi")] = "DL",
        [("MX", "coahuila")] = "COA",
        [("MX", "estado de mexico")] = "MEX",
        [("MX", "michoacan")] = "MIC",
        [("MX", "veracruz")] = "VER",
        [("MX", "cdmx")] = "CMX",
        [("US", "washington dc")] = "DC",
        [("US", "washington, dc")] = "DC",
        [("US", "us virgin islands")] = "VI",
        [("US", "virgin islands, us")] = "VI",
    };
}
